import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ofLesson } from '../lesson-scope';

/** The steps in which a lesson is made, from the first to the last. Each has an address (`app/lesson-routes`). */
export const STEPS = ['prepare', 'record', 'trim', 'share'] as const;
export type Step = (typeof STEPS)[number];

/** Which panel lay open in a step when it was left: it lies open again when that is come back to. */
const usePanels = ofLesson(() => ({ left: new Map<Step, string | null>() }));

/** The step that is open, and the panel that lies open in it: both are in the address. */
export function useSteps() {
  const route = useRoute();
  const panels = usePanels();
  const router = useRouter();
  const now = computed(() => STEPS.find((one) => one === route.name) ?? null);
  const panel = computed({
    get: () => (typeof route.query.panel === 'string' ? route.query.panel : null),
    set: (name: string | null) => void router.push({ query: name === null ? {} : { panel: name } }),
  });

  function go(step: Step) {
    if (now.value) panels.left.set(now.value, panel.value);
    const open = panels.left.get(step);
    return router.push({ name: step, params: route.params, query: open ? { panel: open } : {} });
  }

  return { now, panel, go };
}
