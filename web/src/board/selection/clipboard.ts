import { decodePieces, encodePieces } from '@kite-trail/core/formats/marks-coding';
import { base64, lessonId } from '@kite-trail/core/contract/primitives';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { computed } from 'vue';
import { z } from 'zod';
import { useLocalStorage } from '@vueuse/core';
import { api } from '../../server/api';
import { fromBase64, toBase64 } from '../../server/base64';
import { useDesk } from '../../lesson/desk';
import { useFiles } from '../../lesson/files';
import { useLesson } from '../../lesson/lesson';
import { usePens } from '../pens/pens';
import { useComposing } from '../composing/composing';
import { useView } from '../view';
import { useSelection } from './selection';
import { ofLesson } from '../../lesson/lesson-scope';

const copiedText = z.object({ lesson: lessonId, pieces: base64 });
type Copied = z.output<typeof copiedText>;

/** Pieces copied from one page to another, of this lesson or of another one, in any window. */
export const useClipboard = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  const files = useFiles();
  const pens = usePens();
  const selection = useSelection();
  const composing = useComposing();
  const view = useView();
  const kept = useLocalStorage<string>('kite-trail-copied', '');
  const hasSomething = computed(() => kept.value !== '');

  /** Copies what is held. @returns how it is known again */
  function copy(): string {
    const copied: Copied = { lesson: lesson.document!.id, pieces: toBase64(encodePieces(selection.pieces)) };
    return (kept.value = JSON.stringify(copied));
  }

  function cut(): string {
    const copied = copy();
    selection.lift();
    return copied;
  }

  /** The words of what is held, for programs that take no pieces. */
  const words = computed(() => {
    const said = selection.pieces.flatMap((piece) => (piece.kind === 'text' ? [piece.content.text] : []));
    return said.join('\n') || 'Pieces of a lesson';
  });

  /**
   * Puts what was copied on the page shown; pictures come along from the other lesson.
   * @param from what `copy` has given; without it, what was copied last
   * @throws FormatError where it cannot be read
   */
  async function paste(from = kept.value): Promise<void> {
    const copied = copiedText.parse(JSON.parse(from));
    const pieces = decodePieces(fromBase64(copied.pieces));
    if (copied.lesson !== lesson.document!.id) {
      for (const asset of picturesIn(pieces)) await files.add('picture', await api.lessonFile(copied.lesson, asset));
    }
    const onPage = new Set(desk.scene!.pages.flatMap((state) => state.pieces.map(({ id }) => id)));
    const isBeside = pieces.some(({ id }) => onPage.has(id) && selection.ids.has(id));
    pens.held = 'hold';
    selection.placeCopies(pieces, isBeside ? ASIDE_PT : 0);
  }

  /** Puts text in the middle of what is seen of the page. */
  async function pasteText(text: string): Promise<void> {
    const wanted = text.trim();
    if (wanted === '') return;
    await composing.typeWhole(wanted, view.middle);
  }

  return { hasSomething, words, copy, cut, paste, pasteText };
});

/** Pasted over what they were copied from, copies lie a little aside. */
const ASIDE_PT = 18;

const picturesIn = (pieces: readonly Piece[]): AssetId[] => [
  ...new Set(pieces.flatMap((piece) => (piece.kind === 'picture' ? [piece.asset] : []))),
];
