import { until } from '@vueuse/core';
import { createRouter, createWebHistory } from 'vue-router';
import StudentDoor from '../study/StudentDoor.vue';
import StudentHome from '../study/StudentHome.vue';
import { useSession } from './session';

const NO_PLACE = { render: () => null };

export const studentRouter = createRouter({
  history: createWebHistory('/student'),
  routes: [
    { path: '/', name: 'home', component: StudentHome },
    // A private link says the key; else it is typed.
    { path: '/in/:ownKey?', name: 'sign-in', component: StudentDoor, props: true },
    {
      path: '/feedback/:handIn',
      name: 'feedback',
      component: () => import('../study/FeedbackScreen.vue'),
      props: true,
    },
    {
      path: '/work/:lessonId/:step?',
      name: 'lesson',
      component: NO_PLACE,
      async beforeEnter(to) {
        const { studentLessonRoute } = await import('./student-lesson-routes');
        studentRouter.addRoute(studentLessonRoute);
        return to.fullPath;
      },
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});

studentRouter.beforeEach(async (to) => {
  if (to.name === 'sign-in') return true;
  const session = useSession();
  // Where the school does not say who has come in, the screens say why.
  const arrives = session.arrives().catch(() => {});
  if (!session.known) await Promise.race([arrives, until(() => session.waitsFor).not.toBeNull()]);
  const isNobody = () => session.known && !session.student;
  if (!session.known) void arrives.then(() => void (isNobody() && studentRouter.replace({ name: 'sign-in' })));
  return isNobody() ? { name: 'sign-in' } : true;
});
