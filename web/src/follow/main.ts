import { createApp } from 'vue';
import '../look/palette.css';
import { useRoomLight } from '../device/room-light';
import Follow from './Follow.vue';

useRoomLight();
createApp(Follow).mount('#app');
