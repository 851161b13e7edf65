import { createApp } from 'vue';
import '../look/palette.css';
import Watch from './Watch.vue';

createApp(Watch, { token: location.pathname.split('/').at(-1) ?? '' }).mount('#app');
