import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { RouteRecordRaw } from 'vue-router';
import { useBoardKeys } from '../board/board-keys';
import { useLessonKeys } from '../lesson/frame/lesson-keys';
import LessonScreen from '../lesson/frame/LessonScreen.vue';
import { usePageKeys } from '../pages/turning';
import PrepareBar from '../prepare/PrepareBar.vue';
import PrepareView from '../prepare/PrepareView.vue';
import RecordBar from '../record/RecordBar.vue';
import RecordControls from '../record/RecordControls.vue';
import RecordCountdown from '../record/RecordCountdown.vue';
import { useRecordKeys } from '../record/record-keys';
import RecordView from '../record/RecordView.vue';
import HandInPanel from '../study/HandInPanel.vue';
import HandInView from '../study/HandInView.vue';
import { dressFor } from '../study/own-tasks';
import TaskLine from '../study/TaskLine.vue';
import TakesView from '../trail/TakesView.vue';
import { useTrailKeys } from '../trail/trail-keys';
import TrimBars from '../trim/TrimBars.vue';
import { useTrimKeys } from '../trim/trim-keys';
import TrimPanel from '../trim/TrimPanel.vue';
import TrimTools from '../trim/TrimTools.vue';
import TrimView from '../trim/TrimView.vue';

/** The addresses of what a student works on: the same steps as a teacher’s, in a simpler dress, and handing in at their end. */
export const studentLessonRoute: RouteRecordRaw = {
  path: '/work/:lessonId',
  name: 'lesson',
  component: LessonScreen,
  props: ({ params }) => ({ lessonId: params.lessonId, dress: dressFor(params.lessonId as LessonId) }),
  meta: { keys: [useRecordKeys, useTrimKeys, useTrailKeys, usePageKeys, useBoardKeys, useLessonKeys] },
  children: [
    {
      path: 'write',
      name: 'prepare',
      components: { line: TaskLine, default: PrepareView, bar: PrepareBar, controls: RecordControls },
    },
    {
      path: 'record',
      name: 'record',
      components: {
        default: RecordView,
        bar: RecordBar,
        controls: RecordControls,
        over: RecordCountdown,
        panel: TakesView,
      },
      props: { controls: { canCheck: true } },
    },
    {
      path: 'trim',
      name: 'trim',
      components: { default: TrimView, bar: TrimBars, controls: TrimTools, panel: TrimPanel },
    },
    { path: 'hand-in', name: 'hand-in', components: { default: HandInView, panel: HandInPanel } },
  ],
};
