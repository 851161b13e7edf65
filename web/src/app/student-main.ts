import { createPinia } from 'pinia';
import { createApp } from 'vue';
import StudentApp from './StudentApp.vue';
import '../look/fonts.css';
import '../look/palette.css';
import { studentRouter } from './student-router';

createApp(StudentApp).use(createPinia()).use(studentRouter).mount('#app');
