import type { Chapter, PlacedChapter } from '@kite-trail/core/trail/chapters';
import type { TakeMoment } from '@kite-trail/core/trail/ink-edits';
import { computed } from 'vue';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { useTrimming } from '../trimming';
import { ofLesson } from '../../lesson/lesson-scope';

/** The chapters of a lesson: from page turns, named, added, moved and taken away. */
export const useChapters = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const trimming = useTrimming();

  const listed = computed<readonly PlacedChapter[]>(() => trimming.chapters);

  const isAt = (one: TakeMoment, other: TakeMoment) => one.take === other.take && one.atSamples === other.atSamples;
  const without = (moment: TakeMoment) => lesson.edition.chapters.filter((one) => !isAt(one, moment));
  const put = (chapters: readonly Chapter[]) => void editing.change({ chapters });

  function rename({ moment, title: before }: PlacedChapter, title: string): void {
    const after = title.trim();
    if (after !== '' && after !== before) put([...without(moment), { ...moment, title: after }]);
  }

  function add(samples: number, title: string): void {
    const moment = trimming.momentAt(samples);
    if (moment) put([...without(moment), { ...moment, title }]);
  }

  /** Takes a chapter away; where a page turn makes one, it makes none any more. */
  function drop({ moment }: PlacedChapter): void {
    put([...without(moment), { ...moment, title: null }]);
  }

  function move({ moment, title }: PlacedChapter, samples: number): void {
    const to = trimming.momentAt(samples);
    if (!to || isAt(to, moment)) return;
    const others = without(moment).filter((one) => !isAt(one, to));
    put([...others, { ...moment, title: null }, { ...to, title }]);
  }

  return { listed, rename, add, drop, move };
});
