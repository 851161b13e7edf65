import QRCode from 'qrcode';

/** A quiet zone of four modules, as the standard (ISO/IEC 18004) asks for. */
const OPTIONS = { margin: 4, errorCorrectionLevel: 'M', color: { dark: '#1f2a44', light: '#ffffff' } } as const;
const PNG_WIDTH_PX = 1024;

/** An address as a QR code: the address of a picture of it. */
export async function qrSvg(address: string): Promise<string> {
  const svg = await QRCode.toString(address, { ...OPTIONS, type: 'svg' });
  return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
}

export const qrPng = (address: string): Promise<string> =>
  QRCode.toDataURL(address, { ...OPTIONS, width: PNG_WIDTH_PX });
