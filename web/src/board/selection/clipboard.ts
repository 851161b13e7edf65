import { decodePieces, encodePieces } from '@kite-trail/core/formats/marks-coding';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { useLocalStorage } from '../../device/local-storage';
import { api } from '../../server/api';
import { fromBase64, toBase64 } from '../../server/base64';
import { useDesk } from '../../lesson/desk';
import { useFiles } from '../../lesson/files';
import { useLesson } from '../../lesson/lesson';
import { usePens } from '../pens/pens';
import { useSelection } from './selection';

interface Copied {
  lesson: LessonId;
  pieces: string;
}

/** Pieces copied from one page to another, of this lesson or of another one, in any window. */
export const useClipboard = defineStore('clipboard', () => {
  const desk = useDesk();
  const lesson = useLesson();
  const files = useFiles();
  const pens = usePens();
  const selection = useSelection();
  const kept = useLocalStorage<string>('kite-trail-copied', '');
  const hasSomething = computed(() => kept.value !== '');

  function copy(): void {
    if (selection.pieces.length === 0) return;
    const copied: Copied = { lesson: lesson.document!.id, pieces: toBase64(encodePieces(selection.pieces)) };
    kept.value = JSON.stringify(copied);
  }

  function cut(): void {
    copy();
    selection.lift();
  }

  /** Puts what was copied on the page shown; pictures come along from the other lesson. */
  async function paste(): Promise<void> {
    if (!hasSomething.value) return;
    const copied = JSON.parse(kept.value) as Copied;
    const pieces = decodePieces(fromBase64(copied.pieces));
    if (copied.lesson !== lesson.document!.id) {
      for (const asset of picturesIn(pieces)) await files.add('picture', await api.lessonFile(copied.lesson, asset));
    }
    const onPage = new Set(desk.scene!.pages.flatMap((state) => state.pieces.map(({ id }) => id)));
    const isBeside = pieces.some(({ id }) => onPage.has(id) && selection.ids.has(id));
    pens.held = 'hold';
    selection.placeCopies(pieces, isBeside ? ASIDE_PT : 0);
  }

  return { hasSomething, copy, cut, paste };
});

/** Pasted over what they were copied from, copies lie a little aside. */
const ASIDE_PT = 18;

const picturesIn = (pieces: readonly Piece[]): AssetId[] => [
  ...new Set(pieces.flatMap((piece) => (piece.kind === 'picture' ? [piece.asset] : []))),
];
