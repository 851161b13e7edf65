import { LessonScope, useOtherwise } from './lesson/lesson-scope';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, vi } from 'vitest';

// Each test has stores and settings of its own, as a new browser would.
beforeEach(() => {
  const settings = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => settings.get(key) ?? null,
    setItem: (key: string, value: string) => settings.set(key, value),
    removeItem: (key: string) => settings.delete(key),
  });
  setActivePinia(createPinia());
  useOtherwise(new LessonScope());
});
