/** Files that were dropped on Home: they wait for the lesson that is made for them. */
let waiting: readonly File[] = [];

export function leaveFiles(files: readonly File[]): void {
  waiting = files;
}

export function collectFiles(): readonly File[] {
  const files = waiting;
  waiting = [];
  return files;
}
