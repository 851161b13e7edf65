import { createApp } from 'vue';
import '../look/palette.css';
import { useRoomLight } from '../device/room-light';
import Watch from './Watch.vue';

useRoomLight();
createApp(Watch, { token: location.pathname.split('/').at(-1) ?? '' }).mount('#app');
