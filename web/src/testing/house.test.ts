import { describe, expect, it } from 'vitest';

const MOST_LINES = 350;
const MOST_FILES = 22;

/** Every file of the client, by its path, as text. */
const texts: Record<string, string> = import.meta.glob('/src/**/*.{ts,vue}', {
  query: '?raw',
  import: 'default',
  eager: true,
});
const files = Object.keys(texts);

/** The files that a file needs when it is loaded: not for types alone, and not only later. */
function neededBy(file: string): string[] {
  const imports = texts[file].matchAll(/^(?:import|export)(?! type)[^'"]*['"](\.[^'"]+)['"]/gm);
  return [...imports].flatMap(([, path]) => {
    const meant = new URL(path.split('?')[0], `file://${file}`).pathname;
    return files.filter((one) => one === meant || one === `${meant}.ts`);
  });
}

function circles(): string[] {
  const found: string[] = [];
  const done = new Set<string>();
  const visit = (file: string, way: readonly string[]) => {
    if (way.includes(file)) return void found.push([...way.slice(way.indexOf(file)), file].join(' → '));
    if (done.has(file)) return;
    for (const needed of neededBy(file)) visit(needed, [...way, file]);
    done.add(file);
  };
  for (const file of files) visit(file, []);
  return found;
}

// Which room may know which is kept by ESLint.
describe('the house', () => {
  it('has no circle between files', () => {
    expect(files.length).toBeGreaterThan(200);
    expect(neededBy(files.find((file) => file.endsWith('/app/main.ts'))!).length).toBeGreaterThan(1);
    expect(circles()).toEqual([]);
  });

  it('has no file that is too long to be of one subject', () => {
    expect(files.filter((file) => texts[file].split('\n').length - 1 > MOST_LINES)).toEqual([]);
  });

  it('has no room so full that a subject in it wants a name', () => {
    const rooms = new Map<string, number>();
    for (const file of files) {
      const room = file.slice(0, file.lastIndexOf('/'));
      rooms.set(room, (rooms.get(room) ?? 0) + 1);
    }
    expect([...rooms].filter(([, count]) => count > MOST_FILES)).toEqual([]);
  });
});
