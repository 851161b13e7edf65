import { ALLOWED, type Allowed } from '@kite-trail/core/contract/task';
import { shallowRef } from 'vue';
import { ofLesson } from '../lesson-scope';

/** The steps in which a lesson is made, from the first to the last, which says what becomes of it. */
export type Step = 'prepare' | 'record' | 'trim' | 'share';

/** In what dress a lesson is open: for whom its screen is, which steps there are, and what may be used beside ink. */
export interface Dress {
  wearer: 'teacher' | 'student' | 'marker';
  /** What each is called, and the name of its address. */
  steps: readonly { step: Step; label: string; route: string }[];
  allows: readonly Allowed[];
  /** Where one begins in what has been recorded already. */
  opensIn: Step;
}

export const TEACHERS_DRESS: Dress = {
  wearer: 'teacher',
  steps: [
    { step: 'prepare', label: 'Prepare', route: 'prepare' },
    { step: 'record', label: 'Record', route: 'record' },
    { step: 'trim', label: 'Trim', route: 'trim' },
    { step: 'share', label: 'Share', route: 'share' },
  ],
  allows: ALLOWED,
  opensIn: 'trim',
};

/** The dress the open lesson wears: a teacher’s, unless its screen says otherwise. */
export const useDress = ofLesson(() => {
  const now = shallowRef(TEACHERS_DRESS);
  const may = (what: Allowed): boolean => now.value.allows.includes(what);
  return { now, may };
});
