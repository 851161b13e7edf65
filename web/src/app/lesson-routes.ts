import type { RouteComponent, RouteRecordRaw } from 'vue-router';
import { useBoardKeys } from '../board/board-keys';
import type { Key } from '../lesson/frame/keys';
import { useLessonKeys } from '../lesson/frame/lesson-keys';
import { TEACHERS_DRESS, type Dress } from '../lesson/frame/dress';
import LessonScreen from '../lesson/frame/LessonScreen.vue';
import GiveBackPanel from '../marking/GiveBackPanel.vue';
import { useMarkingKeys } from '../marking/marking-keys';
import MarkingLine from '../marking/MarkingLine.vue';
import { usePageKeys } from '../pages/turning';
import PrepareBar from '../prepare/PrepareBar.vue';
import PrepareView from '../prepare/PrepareView.vue';
import RecordBar from '../record/RecordBar.vue';
import RecordControls from '../record/RecordControls.vue';
import RecordCountdown from '../record/RecordCountdown.vue';
import { useRecordKeys } from '../record/record-keys';
import RecordView from '../record/RecordView.vue';
import SharePanel from '../share/SharePanel.vue';
import ShareView from '../share/ShareView.vue';
import TakesView from '../trail/TakesView.vue';
import { useTrailKeys } from '../trail/trail-keys';
import TrimBars from '../trim/TrimBars.vue';
import { useTrimKeys } from '../trim/trim-keys';
import TrimPanel from '../trim/TrimPanel.vue';
import TrimTools from '../trim/TrimTools.vue';
import TrimView from '../trim/TrimView.vue';

declare module 'vue-router' {
  interface RouteMeta {
    /** What keys do on a screen. */
    keys?: readonly (() => Key[])[];
  }
}

const KEYS = [useRecordKeys, useTrimKeys, useTrailKeys, usePageKeys, useBoardKeys, useLessonKeys];

/**
 * A lesson's addresses. Of each step it is said what is in the frame's places: the trail's (`default`), the bar below it, the controls
 * beside the page, what lies over the page, and the panel on its other side. The page itself stays from step to step.
 */
export const lessonRoute: RouteRecordRaw = {
  path: '/lesson/:lessonId',
  name: 'lesson',
  component: LessonScreen,
  props: true,
  // Where two are the same, the first that can be done is.
  meta: { keys: KEYS },
  children: [
    {
      path: 'prepare',
      name: 'prepare',
      components: { default: PrepareView, bar: PrepareBar, controls: RecordControls },
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
    { path: 'share', name: 'share', components: { default: ShareView, panel: SharePanel } },
  ],
};

const MARKERS_DRESS: Dress = {
  ...TEACHERS_DRESS,
  wearer: 'marker',
  steps: [
    { step: 'prepare', label: 'Write', route: 'mark-write' },
    { step: 'record', label: 'Speak', route: 'mark-speak' },
    { step: 'trim', label: 'Trim', route: 'mark-trim' },
    { step: 'share', label: 'Give back', route: 'give-back' },
  ],
  opensIn: 'record',
};

/** The addresses of what a student has handed in, while it is marked: the same steps, and giving back at their end. */
export const markingRoute: RouteRecordRaw = {
  path: '/task/:taskId/marking/:lessonId',
  name: 'marking',
  component: LessonScreen,
  props: ({ params }) => ({ lessonId: params.lessonId, dress: MARKERS_DRESS }),
  meta: { keys: [useMarkingKeys, ...KEYS] },
  children: (lessonRoute.children ?? []).map(({ path, components, props }, n): RouteRecordRaw => {
    const { step, route } = MARKERS_DRESS.steps[n];
    const places: Record<string, RouteComponent> = { ...components, line: MarkingLine };
    if (step === 'share') places.panel = GiveBackPanel;
    return { path, name: route, components: places, props } as RouteRecordRaw;
  }),
};
