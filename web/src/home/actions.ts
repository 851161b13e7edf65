/** Something that can be done with a lesson or a class, as a menu names it. */
export interface Action {
  key: string;
  label: string;
  run: () => unknown;
}
