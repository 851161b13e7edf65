/** From one line of text to the next, in sizes of the text. */
export const LINE_SHARE = 1.35;
