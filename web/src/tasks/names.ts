import { useKeptSetting } from '../device/kept-setting';
import { computed } from 'vue';

/** Whether students are called by their names while their replies are looked at: whoever marks may not want to know whose it is. */
export function useNames() {
  const names = useKeptSetting<'shown' | 'hidden'>('kite-trail-names', 'shown');
  const areHidden = computed({
    get: () => names.value === 'hidden',
    set: (are) => (names.value = are ? 'hidden' : 'shown'),
  });
  /** @param place among all of the class, from 0 */
  const called = (name: string, place: number): string => (areHidden.value ? `Student ${place + 1}` : name);
  return { areHidden, called };
}
