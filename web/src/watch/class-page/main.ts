import { createApp } from 'vue';
import '../../look/palette.css';
import { useRoomLight } from '../../device/room-light';
import ClassPage from './ClassPage.vue';

useRoomLight();
createApp(ClassPage, { token: location.pathname.split('/').at(-1) ?? '' }).mount('#app');
