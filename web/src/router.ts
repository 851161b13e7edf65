import { createRouter, createWebHistory } from 'vue-router';
import Home from './screens/Home.vue';
import SignIn from './screens/SignIn.vue';
import { useSession } from './stores/session';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'home', component: Home },
    { path: '/sign-in', name: 'sign-in', component: SignIn },
    { path: '/lesson/:lessonId', name: 'lesson', component: () => import('./screens/Lesson.vue'), props: true },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});

router.beforeEach(async (to) => {
  const session = useSession();
  if (!session.known) await session.load();
  if (to.name === 'sign-in') return session.teacher ? { name: 'home' } : true;
  return session.teacher || session.unreachable ? true : { name: 'sign-in' };
});
