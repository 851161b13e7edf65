import { NOTHING_SAID } from '@kite-trail/core/contract/lesson';
import type { ClassId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useSession } from '../app/session';
import { classCalled, lessonCalled } from '../testing/lessons';
import { useLessons } from './lessons';

const [KNOTS, BENDS, CHARTS] = ['knots-lesson', 'bends-lesson', 'charts-lesson'] as LessonId[];
const CREW = 'class-crew' as ClassId;
const crew = (lessons: LessonId[]) => classCalled(CREW, lessons);

/** What the school has, and what it was asked. */
const school = vi.hoisted(() => ({
  classes: [] as unknown[],
  lessons: vi.fn<() => Promise<unknown[]>>(),
  signIn: vi.fn<(who: { email: string }) => Promise<unknown>>(),
  signOut: vi.fn(async () => {}),
  binLessons: vi.fn(async () => {}),
  placeLessons: vi.fn<() => Promise<void>>(async () => {}),
  renameLesson: vi.fn(async () => {}),
  sayAbout: vi.fn(async () => {}),
}));
vi.mock('../server/api', () => ({
  api: { ...school, classes: async () => school.classes },
  archiveUrl: (ids: string[]) => `archive of ${ids}`,
  classArchiveUrl: (id: string) => `archive of ${id}`,
}));
const { allSent, saveUrl } = vi.hoisted(() => ({ allSent: vi.fn(async () => {}), saveUrl: vi.fn() }));
vi.mock('../app/outbox', () => ({ useOutbox: () => ({ allSent }) }));
vi.mock('../device/save-file', () => ({ saveUrl }));

const signIn = (name: string) => {
  school.signIn.mockResolvedValueOnce({ needsFirstTeacher: false, teacher: { id: name as TeacherId, name } });
  return useSession().signIn({ email: name, password: '' });
};

beforeEach(async () => {
  vi.clearAllMocks();
  school.classes = [crew([KNOTS, BENDS, CHARTS])];
  school.lessons.mockResolvedValue([KNOTS, BENDS, CHARTS].map((id) => lessonCalled(id)));
  await signIn('Ada');
  useLessons();
});

describe('an archive of lessons', () => {
  it('is saved once all that was made here has been sent, and else it is told', async () => {
    const store = useLessons();
    allSent.mockRejectedValueOnce(new Error('It has not reached the school yet.'));
    await store.archive([KNOTS]);
    expect([store.problem, saveUrl.mock.calls]).toEqual(['It has not reached the school yet.', []]);
    await store.archive([KNOTS, BENDS]);
    await store.archiveClass(crew([KNOTS, CHARTS]));
    expect(store.problem).toBe('');
    expect(allSent.mock.calls.slice(1)).toEqual([[[KNOTS, BENDS]], [[KNOTS, CHARTS]]]);
    expect(saveUrl.mock.calls).toEqual([[`archive of ${KNOTS},${BENDS}`], [`archive of ${CREW}`]]);
  });

  it('is told to be too large where more are chosen than it takes', async () => {
    const store = useLessons();
    await store.archive(Array.from({ length: 201 }, () => KNOTS));
    expect([store.problem, saveUrl.mock.calls.length]).toEqual([expect.stringMatching(/200 chosen lessons/), 0]);
  });
});

describe('the lessons of whoever is signed in', () => {
  it('are not seen by whoever signs in next, nor told to them by an answer that comes late', async () => {
    const store = useLessons();
    await store.load();
    expect(store.lessons).toHaveLength(3);
    let answer: (all: unknown[]) => void = () => {};
    school.lessons.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)));
    const late = store.load();
    await useSession().signOut();
    await signIn('Ben');
    expect([store.lessons, store.classes, store.done]).toEqual([null, [], null]);
    answer([lessonCalled(KNOTS)]);
    await late;
    expect(store.lessons).toBeNull();
    await store.load();
    expect(store.lessons).toHaveLength(3);
  });

  it('are not laid out anew under a hand that drags, nor as they were before what it did', async () => {
    const store = useLessons();
    await store.load();
    const shown = store.classes;
    store.isDragging = true;
    school.classes = [crew([BENDS, KNOTS, CHARTS])];
    const answered = store.load();
    await vi.waitFor(() => expect(school.lessons).toHaveBeenCalledTimes(2));
    expect(store.classes).toBe(shown);
    // It puts one down elsewhere: what the school said before is no more.
    store.isDragging = false;
    let placed = () => {};
    school.placeLessons.mockReturnValueOnce(new Promise((resolve) => (placed = resolve)));
    const placing = store.order(CREW, CHARTS, KNOTS);
    await answered;
    expect(store.classes[0].lessons).toEqual([CHARTS, KNOTS, BENDS]);
    school.classes = [crew([CHARTS, BENDS, KNOTS])];
    placed();
    await placing;
    expect(store.classes[0].lessons).toEqual([CHARTS, BENDS, KNOTS]);
  });

  it('stand at once where they were put, and as the school says once it has answered', async () => {
    const store = useLessons();
    await store.load();
    const placing = store.order(CREW, CHARTS, KNOTS);
    expect(store.classes[0].lessons).toEqual([CHARTS, KNOTS, BENDS]);
    expect(school.placeLessons).toHaveBeenCalledWith({ lessons: [CHARTS], from: CREW, to: CREW, before: KNOTS });
    await placing;
    expect(store.classes[0].lessons).toEqual([KNOTS, BENDS, CHARTS]);
  });

  it('tell what was refused, and stand as before', async () => {
    const store = useLessons();
    await store.load();
    school.placeLessons.mockRejectedValueOnce(new Error('This class is gone.'));
    expect(await store.place([KNOTS], CREW, null)).toBe(false);
    expect(store.problem).toBe('This class is gone.');
    expect(store.classes[0].lessons).toContain(KNOTS);
    // What is done next says nothing of it any more.
    expect(await store.place([KNOTS], CREW, null)).toBe(true);
    expect(store.problem).toBe('');
  });

  it('come back from the bin with one touch, once', async () => {
    const store = useLessons();
    await store.bin([KNOTS, BENDS]);
    expect(store.done?.text).toBe('2 lessons went into the bin.');
    await store.undo();
    expect(school.binLessons.mock.calls).toEqual([
      [[KNOTS, BENDS], true],
      [[KNOTS, BENDS], false],
    ]);
    await store.undo();
    expect(school.binLessons).toHaveBeenCalledTimes(2);
  });

  it('say to the school only what is other than it was', async () => {
    const store = useLessons();
    const lesson = lessonCalled(KNOTS);
    await store.say(lesson, 'Bowlines', { ...NOTHING_SAID });
    expect([school.renameLesson.mock.calls, school.sayAbout.mock.calls]).toEqual([[[KNOTS, 'Bowlines']], []]);
    const about = { ...NOTHING_SAID, tags: ['rope'] };
    await store.say(lesson, lesson.title, about);
    expect(school.renameLesson).toHaveBeenCalledTimes(1);
    expect(school.sayAbout.mock.calls).toEqual([[KNOTS, about]]);
  });
});
