/** In which a lesson is made, from the first to the last. */
export const LESSON_STEPS = ['Prepare', 'Record', 'Trim', 'Share'] as const;
export type LessonStep = (typeof LESSON_STEPS)[number];
