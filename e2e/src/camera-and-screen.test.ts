import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, picturesOf } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom({ camera: true });
  ({ teacher } = classroom);
  await classroom.makeLesson('Parts of a winch');
});
afterAll(() => classroom?.close());

const pictures = async () => picturesOf(await openLesson(teacher), 0);

describe('a picture', () => {
  it('is taken with the camera', async () => {
    await teacher.press('Camera');
    await teacher.page.waitForFunction(() => (document.querySelector('video')?.videoWidth ?? 0) > 0);
    await teacher.press('Take it');
    await expect.poll(async () => (await pictures()).length).toBe(1);
    const [{ asset }] = await pictures();
    const { id } = await openLesson(teacher);
    const type = await teacher.page.evaluate(
      async (url) => (await fetch(url)).headers.get('content-type'),
      `/api/lessons/${id}/assets/${asset}`,
    );
    expect(type).toBe('image/jpeg');
    await expect.poll(() => teacher.page.$('video')).toBeNull();
  });

  it('is taken of a screen, and the part wanted is chosen at once', async () => {
    await teacher.press('Night pen');
    await teacher.press('Screen');
    await teacher.press('Crop to this');
    await expect.poll(async () => (await pictures()).length).toBe(2);
  });
});
