import { until } from '@vueuse/core';
import { createRouter, createWebHistory, type RouteLocationNormalized } from 'vue-router';
import SignIn from '../account/SignIn.vue';
import Home from '../home/HomeScreen.vue';
import { useSession } from './session';

const NO_PLACE = { render: () => null };

/** All that lessons need is loaded with the first of them, so that every step is there when the network goes. */
async function addLessonRoutes({ fullPath }: RouteLocationNormalized): Promise<string> {
  const { lessonRoute, markingRoute } = await import('./lesson-routes');
  router.addRoute(lessonRoute);
  router.addRoute(markingRoute);
  return fullPath;
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/',
      component: Home,
      children: [
        // These are all views of the lessons, which Home itself shows.
        { path: '', name: 'home', component: NO_PLACE },
        { path: 'favourites', name: 'favourites', component: NO_PLACE },
        { path: 'bin', name: 'bin', component: NO_PLACE },
        { path: 'class/:classId', name: 'class', component: NO_PLACE },
        { path: 'class/:classId/tasks', name: 'tasks', props: true, component: () => import('../tasks/TasksView.vue') },
        { path: 'task/:taskId', name: 'task', props: true, component: () => import('../tasks/MarkingTable.vue') },
        { path: 'recordings', name: 'recordings', component: () => import('../home/overview/RecordingsView.vue') },
        { path: 'catalogue', name: 'catalogue', component: () => import('../home/catalogue/CatalogueView.vue') },
        { path: 'space', name: 'space', component: () => import('../home/overview/SpaceView.vue') },
      ],
    },
    { path: '/sign-in', name: 'sign-in', component: SignIn },
    // Both let in whoever has a link.
    { path: '/:door(join|new-password)', name: 'ticket', component: () => import('../account/TicketScreen.vue') },
    { path: '/account', name: 'account', component: () => import('../account/AccountScreen.vue') },
    { path: '/teachers', name: 'teachers', component: () => import('../account/TeachersScreen.vue') },
    { path: '/lesson/:lessonId/:step?', name: 'lesson', component: NO_PLACE, beforeEnter: addLessonRoutes },
    {
      path: '/task/:taskId/marking/:lessonId/:step?',
      name: 'marking',
      component: NO_PLACE,
      beforeEnter: addLessonRoutes,
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});

router.beforeEach(async (to) => {
  const session = useSession();
  // Where the school does not say who is signed in, the screens say why.
  const arrives = session.arrives().catch(() => {});
  if (!session.known) await Promise.race([arrives, until(() => session.waitsFor).not.toBeNull()]);
  if (to.name === 'ticket') return true;
  // Students have a program of their own.
  if (session.student) return void location.replace('/student');
  if (to.name === 'sign-in') return session.teacher ? { name: 'home' } : true;
  const isNobody = () => session.known && !session.teacher;
  if (!session.known) void arrives.then(() => void (isNobody() && router.replace({ name: 'sign-in' })));
  return isNobody() ? { name: 'sign-in' } : true;
});
