import { buoys } from './buoys';
import { compass } from './compass';
import { givingWay } from './giving-way';
import { pointsOfSailing } from './points-of-sailing';
import { PREPARED } from './prepared';
import type { Script } from './script';
import { tide } from './tide';

/** What everything is tried on. */
export const FIRST_TERM: readonly Script[] = [buoys, compass, tide];

/** What a school has besides, after a while. */
export const SECOND_TERM: readonly Script[] = [...PREPARED, givingWay, pointsOfSailing];

export const SCRIPTS: readonly Script[] = [...FIRST_TERM, ...SECOND_TERM];
