import { z } from 'zod';

/** In an MP4 with AAC sound, or in a WebM with Opus sound. */
export const FILM_CODECS = ['avc', 'av1', 'vp9'] as const;
export type FilmCodec = (typeof FILM_CODECS)[number];

export const FILM_SHAPES = ['wide', 'upright', 'square'] as const;
export type FilmShape = (typeof FILM_SHAPES)[number];

/** Pixels of the shorter side. */
export const FILM_SIZES = [480, 720, 1080, 1440, 2160] as const;
export const FRAME_RATES = [24, 30, 60] as const;
export const FILM_QUALITIES = ['small', 'good', 'best'] as const;
/** Not at all, as a track that players switch on, in a file beside the film, or in the picture for good. */
export const CAPTION_WAYS = ['none', 'track', 'file', 'drawn'] as const;

const oneOf = <const Value extends number>(values: readonly Value[]) =>
  z.union(values.map((value) => z.literal(value)) as unknown as [z.ZodLiteral<Value>, z.ZodLiteral<Value>]);

/** What a film is to be like. */
export const filmSettings = z.object({
  codec: z.enum(FILM_CODECS),
  shape: z.enum(FILM_SHAPES),
  sizePx: oneOf(FILM_SIZES),
  framesPerSecond: oneOf(FRAME_RATES),
  quality: z.enum(FILM_QUALITIES),
  captions: z.enum(CAPTION_WAYS),
  hasPointer: z.boolean(),
  hasInstruments: z.boolean(),
  hasTitleCard: z.boolean(),
  /** What is around the page. */
  surround: z.string().regex(/^#[0-9a-f]{6}$/),
});
export type FilmSettings = z.infer<typeof filmSettings>;

export const USUAL_FILM: FilmSettings = {
  codec: 'avc',
  shape: 'wide',
  sizePx: 720,
  framesPerSecond: 30,
  quality: 'good',
  captions: 'track',
  hasPointer: true,
  hasInstruments: true,
  hasTitleCard: false,
  surround: '#1f2a44',
};

/** How long the lesson's name is shown before it, where it is wanted. */
export const TITLE_SECONDS = 3;

export const containerOf = (codec: FilmCodec): 'mp4' | 'webm' => (codec === 'avc' ? 'mp4' : 'webm');
/** The sound that goes with it. */
export const soundCodecOf = (codec: FilmCodec): 'aac' | 'opus' => (codec === 'avc' ? 'aac' : 'opus');

export interface PixelSize {
  widthPx: number;
  heightPx: number;
}

const WIDE = 16 / 9;
/** Encoders halve the colours' resolution: sides are even. */
const even = (px: number): number => 2 * Math.round(px / 2);

/** A picture's size, in even pixels. */
export function pictureSize({ shape, sizePx }: Pick<FilmSettings, 'shape' | 'sizePx'>): PixelSize {
  const long = even(sizePx * WIDE);
  if (shape === 'square') return { widthPx: sizePx, heightPx: sizePx };
  return shape === 'wide' ? { widthPx: long, heightPx: sizePx } : { widthPx: sizePx, heightPx: long };
}

/** A level of a codec: which pictures it allows, and how many pixels a second. */
interface Level {
  name: string;
  pixels: number;
  pixelsPerSecond: number;
}

const MACROBLOCK_PIXELS = 256;
const avc = (name: string, macroblocks: number, macroblocksPerSecond: number): Level => ({
  name,
  pixels: macroblocks * MACROBLOCK_PIXELS,
  pixelsPerSecond: macroblocksPerSecond * MACROBLOCK_PIXELS,
});

const LEVELS: Record<FilmCodec, readonly Level[]> = {
  // ITU-T H.264, table A-1 (MaxFS, MaxMBPS), as the High profile's names in RFC 6381.
  avc: [
    avc('avc1.64001e', 1_620, 40_500),
    avc('avc1.64001f', 3_600, 108_000),
    avc('avc1.640020', 5_120, 216_000),
    avc('avc1.640028', 8_192, 245_760),
    avc('avc1.64002a', 8_704, 522_240),
    avc('avc1.640032', 22_080, 589_824),
    avc('avc1.640033', 36_864, 983_040),
    avc('avc1.640034', 36_864, 2_073_600),
  ],
  // AV1 bitstream specification, annex A.3 (MaxPicSize, MaxDisplayRate).
  av1: [
    { name: 'av01.0.04M.08', pixels: 665_856, pixelsPerSecond: 19_975_680 },
    { name: 'av01.0.05M.08', pixels: 1_065_024, pixelsPerSecond: 31_950_720 },
    { name: 'av01.0.08M.08', pixels: 2_359_296, pixelsPerSecond: 70_778_880 },
    { name: 'av01.0.09M.08', pixels: 2_359_296, pixelsPerSecond: 141_557_760 },
    { name: 'av01.0.12M.08', pixels: 8_912_896, pixelsPerSecond: 267_386_880 },
    { name: 'av01.0.13M.08', pixels: 8_912_896, pixelsPerSecond: 534_773_760 },
  ],
  // VP9 bitstream specification, annex A (MaxLumaPictureSize, MaxLumaSampleRate).
  vp9: [
    { name: 'vp09.00.30.08', pixels: 552_960, pixelsPerSecond: 20_736_000 },
    { name: 'vp09.00.31.08', pixels: 983_040, pixelsPerSecond: 36_864_000 },
    { name: 'vp09.00.40.08', pixels: 2_228_224, pixelsPerSecond: 83_558_400 },
    { name: 'vp09.00.41.08', pixels: 2_228_224, pixelsPerSecond: 160_432_128 },
    { name: 'vp09.00.50.08', pixels: 8_912_896, pixelsPerSecond: 311_951_360 },
    { name: 'vp09.00.51.08', pixels: 8_912_896, pixelsPerSecond: 588_251_136 },
  ],
};

/** Blocks at the edges count whole. */
const inBlocks = (px: number): number => 16 * Math.ceil(px / 16);

/** The codec with the lowest level that allows a film's pictures, as browsers name it (RFC 6381 and the codecs' own registrations). */
export function codecName(settings: Pick<FilmSettings, 'codec' | 'shape' | 'sizePx' | 'framesPerSecond'>): string {
  const { widthPx, heightPx } = pictureSize(settings);
  const pixels = inBlocks(widthPx) * inBlocks(heightPx);
  const levels = LEVELS[settings.codec];
  const allows = (level: Level) => pixels <= level.pixels && pixels * settings.framesPerSecond <= level.pixelsPerSecond;
  return (levels.find(allows) ?? levels[levels.length - 1]).name;
}

/** Of H.264 at 1280 × 720 and 30 frames a second: letters stay sharp on paper of any pattern. */
const USUAL_BITS_PER_SECOND = 2_500_000;
const USUAL_PIXELS = 1280 * 720;
/** Larger pictures of the same page have more of the same: fewer bits a pixel will do. */
const GROWTH = 0.75;
const SHARE_OF_QUALITY = { small: 0.5, good: 1, best: 2 };
/** AV1 needs fewer for the same handwriting. */
const SHARE_OF_CODEC = { avc: 1, av1: 0.4, vp9: 1 };

/** What an encoder may use at most, in bits a second. Where little moves, it uses far less. */
export function bitsPerSecond(settings: FilmSettings): number {
  const { widthPx, heightPx } = pictureSize(settings);
  const ofSize = ((widthPx * heightPx) / USUAL_PIXELS) ** GROWTH;
  const ofRate = settings.framesPerSecond === 60 ? 1.4 : 1;
  return Math.round(
    USUAL_BITS_PER_SECOND * ofSize * ofRate * SHARE_OF_QUALITY[settings.quality] * SHARE_OF_CODEC[settings.codec],
  );
}
