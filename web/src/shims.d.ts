declare module '@fontsource-variable/*';

/** Synchronous access to a private file from a worker (WHATWG File System); the DOM types leave it to workers. */
interface FileSystemSyncAccessHandle {
  read(into: ArrayBufferView, options: { at: number }): number;
  write(data: ArrayBufferView, options: { at: number }): number;
  truncate(size: number): void;
  flush(): void;
  close(): void;
}

interface FileSystemFileHandle {
  createSyncAccessHandle(): Promise<FileSystemSyncAccessHandle>;
}

/** The package's own types bring those of Node along, which would be taken for the browser's. */
declare module 'qrcode' {
  interface Options {
    margin: number;
    errorCorrectionLevel: 'L' | 'M' | 'Q' | 'H';
    color: { dark: string; light: string };
  }
  const qrcode: {
    toString(text: string, options: Options & { type: 'svg' }): Promise<string>;
    /** The squares of a code, row by row: 1 is dark. */
    create(
      text: string,
      options: Pick<Options, 'errorCorrectionLevel'>,
    ): { modules: { size: number; data: Uint8Array } };
    toDataURL(text: string, options: Options & { width: number }): Promise<string>;
  };
  export default qrcode;
}

/** Of its types the same is true. */
declare module 'papaparse' {
  export function unparse(rows: readonly object[], options: { escapeFormulae: boolean }): string;
}

/** Only workers have it (W3C File API, section 7.5). */
declare class FileReaderSync {
  readAsDataURL(blob: Blob): string;
}
