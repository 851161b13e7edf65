import { encodeMarks } from '../formats/marks-coding';
import type { Mark } from './mark';

/**
 * What waits for a take and is not in the one that has just ended: it begins the next one.
 *
 * A take begins with what its window knew of the changes before it, all at time 0. What puts something there (a stroke, pieces, a page)
 * is in the take where its opening puts that there, whoever made it and whenever it arrived; what it does not hold is never dropped.
 * Of the rest, such as moves, the opening has perhaps only the last: it is in the take unless another window made it meanwhile, or
 * it came after something that the take lacks.
 * @param waiting in their order
 * @param opening the take's marks at time 0
 * @param others of those that wait: what other windows have made since the take began
 * @returns those that are left, in their order
 */
export function leftOver(waiting: readonly Mark[], opening: readonly Mark[], others: readonly Mark[]): Mark[] {
  const put = new Set(opening.flatMap(putBy));
  const [same, made] = [new Set(opening.map(bytesOf)), new Set(others.map(bytesOf))];
  let isLacking = false;
  return waiting.filter((mark) => {
    const puts = putBy(mark);
    if (puts.length > 0) {
      const isLeft = puts.some((id) => !put.has(id));
      isLacking ||= isLeft;
      return isLeft;
    }
    const bytes = bytesOf(mark);
    return !same.has(bytes) && (isLacking || made.has(bytes));
  });
}

/** The pieces and pages that a mark puts there. */
function putBy(mark: Mark): string[] {
  switch (mark.kind) {
    case 'ink':
      return [mark.stroke.id];
    case 'place':
      return mark.pieces.map(({ id }) => id);
    case 'add-page':
      return [mark.page.id];
    default:
      return [];
  }
}

/** Marks are the same where they are stored the same. */
const bytesOf = (mark: Mark): string => encodeMarks([{ ...mark, atSamples: 0 }]).join();
