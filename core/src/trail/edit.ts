import { placeSegments, programmeLength, segmentLength, type Programme, type Segment } from './programme';

/**
 * Trims the programme to `[fromSamples, toSamples)` of its own time. What was written before the new start stays: it is
 * on the page at once. What comes after the new end is left out.
 * @throws RangeError when nothing would be left
 */
export function trim(programme: Programme, fromSamples: number, toSamples: number): Programme {
  const from = Math.max(0, Math.round(fromSamples));
  const to = Math.min(programmeLength(programme), Math.round(toSamples));
  if (to <= from) throw new RangeError('A trim must leave something to play.');
  const before = split(programme, from);
  const rest = split(before.after, to - from);
  return joined([...before.before.map((segment): Segment => ({ ...segment, pace: 'at-once' })), ...rest.before]);
}

/** Divides a programme at a moment of its own time. At-once segments there go with what precedes. */
export function split(programme: Programme, atSamples: number): { before: Programme; after: Programme } {
  const before: Segment[] = [];
  const after: Segment[] = [];
  for (const { segment, startSamples, endSamples } of placeSegments(programme)) {
    if (endSamples <= atSamples && startSamples <= atSamples) before.push(segment);
    else if (startSamples >= atSamples || segment.pace === 'at-once') after.push(segment);
    else {
      const cut = segment.fromSamples + Math.round((atSamples - startSamples) * segment.pace);
      const first = { ...segment, toSamples: cut };
      const second = { ...segment, fromSamples: cut };
      if (segmentLength(first) > 0) before.push(first);
      if (segmentLength(second) > 0) after.push(second);
    }
  }
  return { before, after };
}

/** The programme with a take played whole at its end. */
export function append(programme: Programme, take: Pick<Segment, 'take' | 'toSamples'>): Programme {
  return [...programme, { take: take.take, fromSamples: 0, toSamples: take.toSamples, pace: 1 }];
}

/** Joins segments that go on where the one before them stopped, so that edits leave no needless splices. */
function joined(programme: Programme): Programme {
  const result: Segment[] = [];
  for (const segment of programme) {
    const last = result.at(-1);
    const goesOn =
      last && last.take === segment.take && last.toSamples === segment.fromSamples && last.pace === segment.pace;
    if (goesOn) result[result.length - 1] = { ...last, toSamples: segment.toSamples };
    else result.push(segment);
  }
  return result;
}
