import { keptPens, type KeptPens } from '@kite-trail/core/contract/pens';
import { useSession } from '../../app/session';
import { useKeptJson } from '../../device/kept-setting';
import { api } from '../../server/api';
import { persistently } from '../../server/persistently';

/** Where somebody's pens are kept: a teacher's at the school, a student's on their device, for the school keeps nothing else of them. */
export function useKeptPens() {
  const session = useSession();
  const here = useKeptJson<KeptPens | null>(
    () => `kite-trail-pens-${session.student?.id ?? 'nobody'}`,
    keptPens.nullable(),
    null,
  );

  /** `null` where there are none, or they cannot be asked for. */
  const load = async (): Promise<KeptPens | null> =>
    session.student ? here.value : persistently(api.pens, () => {}).catch(() => null);

  /** What cannot be kept now goes with the next change. */
  async function keep(pens: KeptPens): Promise<void> {
    if (session.student) here.value = pens;
    else await api.keepPens(pens).catch(() => {});
  }

  return { load, keep };
}
