import { until } from '@vueuse/core';
import { createRouter, createWebHistory } from 'vue-router';
import StudentDoor from '../study/StudentDoor.vue';
import { useOwnTasks } from '../study/own-tasks';
import StudentHome from '../study/StudentHome.vue';
import { useSession } from './session';

/** Nobody waits longer for what is asked of them. */
const KNOWN_WITHIN_MS = 2000;

const NO_PLACE = { render: () => null };

export const studentRouter = createRouter({
  history: createWebHistory('/student'),
  routes: [
    { path: '/', name: 'home', component: StudentHome },
    // A private link says the key; else it is typed.
    { path: '/in/:ownKey?', name: 'sign-in', component: StudentDoor, props: true },
    { path: '/ask/:code?', name: 'ask', component: () => import('../study/AskDoor.vue'), props: true },
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
  if (to.name === 'sign-in' || to.name === 'ask') return true;
  const session = useSession();
  // Where the school does not say who has come in, the screens say why.
  const arrives = session.arrives().catch(() => {});
  if (!session.known) await Promise.race([arrives, until(() => session.waitsFor).not.toBeNull()]);
  const isNobody = () => session.known && !session.student;
  if (!session.known) void arrives.then(() => void (isNobody() && studentRouter.replace({ name: 'sign-in' })));
  if (isNobody()) return { name: 'sign-in' };
  // What is asked, and what may be used, is known before the work is open, unless that takes long, such as without a network.
  const tasks = useOwnTasks();
  if (to.path.startsWith('/work/') && tasks.all === null) {
    const known = tasks.load().catch(() => {});
    await Promise.race([known, new Promise((resolve) => setTimeout(resolve, KNOWN_WITHIN_MS))]);
  }
  return true;
});
