import { useEventListener } from '@vueuse/core';
import { useBringIn } from '../../bring-in/bring-in';
import { useNotices } from '../../lesson/notices';
import { useSurface } from '../../lesson/surface';
import { useClipboard } from './clipboard';
import { useSelection } from './selection';

/** By which pieces are known again among what a clipboard holds. */
const PIECES = 'application/x-kite-trail-pieces';

/** Takes part in the system's clipboard: what was copied last, here, in another window or in another program, is what is pasted. */
export function useClipboardEvents(): void {
  const surface = useSurface();
  const bringIn = useBringIn();
  const clipboard = useClipboard();
  const selection = useSelection();
  const problem = useNotices().place('problem');

  async function paste({
    types,
    getData,
    files,
  }: {
    types: readonly string[];
    getData(type: string): string;
    files: readonly File[];
  }) {
    problem.value = null;
    try {
      if (types.includes(PIECES)) await clipboard.paste(getData(PIECES));
      else if (files.length > 0) await bringIn.bring(files);
      else await clipboard.pasteText(getData('text/plain'));
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  useEventListener(window, 'paste', (event) => {
    const { clipboardData: data } = event;
    if (!data || !surface.isWritable || isTyping(event)) return;
    event.preventDefault();
    // The browser empties it once this is over.
    const texts = new Map(data.types.map((type) => [type, data.getData(type)]));
    void paste({ types: data.types, getData: (type) => texts.get(type) ?? '', files: [...data.files] });
  });

  /** Pieces that are held are copied, unless somebody types. */
  function copy(event: ClipboardEvent) {
    if (!surface.isWritable || isTyping(event) || selection.pieces.length === 0) return;
    event.preventDefault();
    // Of what is cut, nothing is held afterwards.
    event.clipboardData?.setData('text/plain', clipboard.words);
    event.clipboardData?.setData(PIECES, event.type === 'cut' ? clipboard.cut() : clipboard.copy());
  }
  useEventListener(window, 'copy', copy);
  useEventListener(window, 'cut', copy);
}

const isTyping = ({ target }: Event) => target instanceof Element && target.closest('input, textarea, select') !== null;
