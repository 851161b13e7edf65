import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import type { TakePlan } from '@kite-trail/core/trail/plan';

/**
 * What a take begins with: where it carries on, what was changed since the one before; and the page it begins on, where old ink
 * does not turn the pages.
 */
export const openingMarks = (plan: TakePlan, between: readonly Mark[], shown: PageId): Mark[] => [
  ...(plan.kind === 'carry-on' ? between.map((mark) => ({ ...mark, atSamples: 0 })) : []),
  ...(plan.kind === 're-speak' ? [] : [{ kind: 'turn', page: shown, atSamples: 0 } as const]),
];
