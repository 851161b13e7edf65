/** What cards and classes have in common while a lesson is dragged. */
export const DRAGGED_LESSONS = 'lessons';
/** A finger that rests so long holds what it is on; a shorter one scrolls. */
export const HELD_MS = 250;
/** A hand that only touches moves as little as this. */
export const TREMBLES_PX = 5;
