declare module '@fontsource-variable/*';

/** Synchronous access to a private file from a worker (WHATWG File System); the DOM types leave it to workers. */
interface FileSystemSyncAccessHandle {
  write(data: ArrayBufferView, options: { at: number }): number;
  truncate(size: number): void;
  flush(): void;
  close(): void;
}

interface FileSystemFileHandle {
  createSyncAccessHandle(): Promise<FileSystemSyncAccessHandle>;
}
