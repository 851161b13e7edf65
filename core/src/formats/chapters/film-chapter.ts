/** A chapter of a film or of a sound: it lasts until the next. */
export interface FilmChapter {
  startSeconds: number;
  title: string;
}
