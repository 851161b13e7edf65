import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useDress, type Step } from './dress';
import { ofLesson } from '../lesson-scope';

/** Which panel lay open in a step when it was left: it lies open again when that is come back to. */
const usePanels = ofLesson(() => ({ left: new Map<Step, string | null>() }));

/** The step that is open, and the panel that lies open in it: both are in the address. */
export function useSteps() {
  const route = useRoute();
  const panels = usePanels();
  const router = useRouter();
  const dress = useDress();
  const now = computed(() => dress.now.steps.find((one) => one.route === route.name)?.step ?? null);
  const panel = computed({
    get: () => (typeof route.query.panel === 'string' ? route.query.panel : null),
    set: (name: string | null) => void router.push({ query: name === null ? {} : { panel: name } }),
  });

  function go(step: Step) {
    if (now.value) panels.left.set(now.value, panel.value);
    const open = panels.left.get(step);
    return router.push({ name: routeOf(step), params: route.params, query: open ? { panel: open } : {} });
  }

  /** The name of a step's address (`app/lesson-routes`). */
  const routeOf = (step: Step) => dress.now.steps.find((one) => one.step === step)?.route;

  return { now, panel, go, routeOf };
}
