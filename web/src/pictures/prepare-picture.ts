import DOMPurify from 'dompurify';
import { imageDimensionsFromData } from 'image-dimensions';

/** A picture as lessons keep them: a PNG, JPEG or WebP that is upright and not too large. */
export interface PreparedPicture {
  blob: Blob;
  widthPx: number;
  heightPx: number;
  /** Its size before it was made smaller; `null` where it was not. */
  reducedFrom: { widthPx: number; heightPx: number } | null;
}

/** The picture cannot be used; the message says why and what to do. */
class UnusablePicture extends Error {
  override readonly name = 'UnusablePicture';
}

const LARGEST_PICTURE_BYTES = 40 * 2 ** 20;
/** More than a large screen shows, zoomed to twice its size. */
const LARGEST_SIDE_PX = 4000;
/** Beyond this a small file may ask for more memory than a tablet has. */
const MOST_PIXELS = 150e6;
const SVG_SIDE_PX = 2400;
const JPEG_QUALITY = 0.9;
const KEPT_AS_THEY_ARE = ['image/png', 'image/jpeg', 'image/webp'];
const TYPES: Record<string, string> = {
  png: 'image/png',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
  gif: 'image/gif',
  avif: 'image/avif',
};

/**
 * Reads a picture of any kind a browser knows by what is in it, not by its name. It is turned as its EXIF orientation
 * says; of a moving one the first frame is taken; an SVG is cleaned and drawn; what is too large is made smaller.
 * @throws UnusablePicture
 */
export async function preparePicture(file: Blob): Promise<PreparedPicture> {
  if (file.size === 0) throw new UnusablePicture('This file is empty.');
  if (file.size > LARGEST_PICTURE_BYTES) {
    throw new UnusablePicture(`A picture may have ${LARGEST_PICTURE_BYTES / 2 ** 20} MB at most. Save it smaller.`);
  }
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (isSvg(bytes)) return drawnSvg(new TextDecoder().decode(bytes));
  const found = imageDimensionsFromData(bytes);
  const type = found?.type && TYPES[found.type];
  if (!found || !type) {
    throw new UnusablePicture('This is not a picture that can be shown. Save it as PNG, JPEG, WebP, GIF, AVIF or SVG.');
  }
  if (found.width * found.height > MOST_PIXELS) {
    throw new UnusablePicture(
      `This picture has ${found.width} × ${found.height} pixels, more than can be opened. Make it smaller.`,
    );
  }
  const decoded = await createImageBitmap(new Blob([bytes], { type })).catch(() => {
    throw new UnusablePicture('This picture is damaged and cannot be shown. Save it anew.');
  });
  // Decoded pictures stand upright: where the sides differ from the file's, it was turned.
  const isUpright = decoded.width === found.width && decoded.height === found.height && !hasOrientation(bytes, type);
  const isSmall = Math.max(decoded.width, decoded.height) <= LARGEST_SIDE_PX;
  if (KEPT_AS_THEY_ARE.includes(type) && isUpright && isSmall) {
    const { width: widthPx, height: heightPx } = decoded;
    decoded.close();
    return { blob: new Blob([bytes], { type }), widthPx, heightPx, reducedFrom: null };
  }
  return written(decoded, type === 'image/jpeg' ? 'image/jpeg' : 'image/png');
}

/** A picture made by this page itself, such as a frame of the camera. */
export async function written(picture: ImageBitmap, type: 'image/jpeg' | 'image/png'): Promise<PreparedPicture> {
  const full = { widthPx: picture.width, heightPx: picture.height };
  const scale = Math.min(1, LARGEST_SIDE_PX / Math.max(full.widthPx, full.heightPx));
  const widthPx = Math.max(1, Math.round(full.widthPx * scale));
  const heightPx = Math.max(1, Math.round(full.heightPx * scale));
  const canvas = new OffscreenCanvas(widthPx, heightPx);
  const surface = canvas.getContext('2d')!;
  surface.imageSmoothingQuality = 'high';
  surface.drawImage(picture, 0, 0, widthPx, heightPx);
  picture.close();
  const blob = await canvas.convertToBlob({ type, quality: JPEG_QUALITY });
  return { blob, widthPx, heightPx, reducedFrom: scale < 1 ? full : null };
}

/** An EXIF block (CIPA DC-008, section 4.5.4) may turn a picture even where its sides stay as long as they were. */
function hasOrientation(bytes: Uint8Array, type: string): boolean {
  if (type !== 'image/jpeg') return false;
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65_536));
  return head.includes('Exif\0\0');
}

function isSvg(bytes: Uint8Array): boolean {
  const head = new TextDecoder().decode(bytes.subarray(0, 1024)).trimStart();
  return head.startsWith('<') && /<svg[\s>]/i.test(head);
}

/** Scripts and addresses are taken out, then it is drawn once: what a lesson keeps is pixels, which can do no harm. */
async function drawnSvg(source: string): Promise<PreparedPicture> {
  const clean = DOMPurify.sanitize(source, { USE_PROFILES: { svg: true, svgFilters: true } });
  const svg = new DOMParser().parseFromString(clean, 'image/svg+xml').documentElement;
  if (svg.nodeName !== 'svg') throw new UnusablePicture('This SVG is damaged and cannot be shown. Save it anew.');
  const { width, height } = svgSize(svg);
  const scale = SVG_SIDE_PX / Math.max(width, height);
  svg.setAttribute('width', String(width * scale));
  svg.setAttribute('height', String(height * scale));
  if (!svg.hasAttribute('viewBox')) svg.setAttribute('viewBox', `0 0 ${width} ${height}`);
  const url = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(svg)], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    return await written(await createImageBitmap(image), 'image/png');
  } catch {
    throw new UnusablePicture('This SVG cannot be shown. Save it as PNG.');
  } finally {
    URL.revokeObjectURL(url);
  }
}

function svgSize(svg: Element): { width: number; height: number } {
  const box = svg
    .getAttribute('viewBox')
    ?.split(/[\s,]+/)
    .map(Number);
  const stated = [parseFloat(svg.getAttribute('width') ?? ''), parseFloat(svg.getAttribute('height') ?? '')];
  const [width, height] = box?.length === 4 ? [box[2], box[3]] : stated;
  return width > 0 && height > 0 ? { width, height } : { width: 300, height: 150 };
}
