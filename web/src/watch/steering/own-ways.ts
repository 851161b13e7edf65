import { computed, watch } from 'vue';
import { useKeptSetting } from '../../device/kept-setting';

/** Typefaces that some read more easily; each is loaded when it is chosen. */
export const FACES = [
  { value: 'usual', label: 'Usual', family: '', load: async () => {} },
  { value: 'lexend', label: 'Lexend', family: 'Lexend', load: () => import('@fontsource/lexend/latin-400.css') },
  { value: 'andika', label: 'Andika', family: 'Andika', load: () => import('@fontsource/andika/latin-400.css') },
  {
    value: 'opendyslexic',
    label: 'OpenDyslexic',
    family: 'OpenDyslexic',
    load: () => import('@fontsource/opendyslexic/latin-400.css'),
  },
] as const;

/** What lies over the page, as a coloured foil does. */
export const TINTS = [
  { value: 'none', label: 'None', color: 'transparent' },
  { value: 'straw', label: 'Straw', color: '#f6e7b8' },
  { value: 'sea', label: 'Sea', color: '#cfe6f2' },
  { value: 'rose', label: 'Rose', color: '#f7d9d9' },
  { value: 'moss', label: 'Moss', color: '#d8ead0' },
] as const;

export const CAPTION_SIZES = [
  { value: '0.85', label: 'Small' },
  { value: '1', label: 'Usual' },
  { value: '1.35', label: 'Large' },
  { value: '1.8', label: 'Very large' },
] as const;

export const CAPTION_PLACES = [
  { value: 'foot', label: 'At the foot' },
  { value: 'head', label: 'At the head' },
] as const;

export const SPACINGS = [
  { value: 'usual', label: 'Usual' },
  { value: 'wide', label: 'Wide' },
] as const;

type ValueOf<Choices extends readonly { value: string }[]> = Choices[number]['value'];

/** How a student likes to read and see: kept on this device. */
export function useOwnWays() {
  const face = useKeptSetting<ValueOf<typeof FACES>>('kite-trail-watch-face', 'usual');
  const spacing = useKeptSetting<ValueOf<typeof SPACINGS>>('kite-trail-watch-spacing', 'usual');
  const tint = useKeptSetting<ValueOf<typeof TINTS>>('kite-trail-watch-tint', 'none');
  const captionSize = useKeptSetting<ValueOf<typeof CAPTION_SIZES>>('kite-trail-watch-caption-size', '1');
  const captionPlace = useKeptSetting<ValueOf<typeof CAPTION_PLACES>>('kite-trail-watch-caption-place', 'foot');
  const motion = useKeptSetting<'usual' | 'less'>('kite-trail-watch-motion', 'usual');

  const chosen = computed(() => FACES.find(({ value }) => value === face.value) ?? FACES[0]);
  watch(chosen, ({ load }) => void load().catch(() => {}), { immediate: true });

  const style = computed(() => {
    const isWide = spacing.value === 'wide';
    return {
      ...(chosen.value.family && { fontFamily: `'${chosen.value.family}', system-ui, sans-serif` }),
      ...(isWide && { letterSpacing: '0.06em', wordSpacing: '0.18em' }),
      '--line-height': isWide ? '1.9' : '1.55',
      '--tint': TINTS.find(({ value }) => value === tint.value)?.color ?? 'transparent',
      '--caption-size': captionSize.value,
    };
  });

  return { face, spacing, tint, captionSize, captionPlace, motion, style };
}

export type OwnWays = ReturnType<typeof useOwnWays>;
