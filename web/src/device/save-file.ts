/** Lets the browser save what is found at an address. @param name empty where the address says it */
export function saveUrl(url: string, name = ''): void {
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
}

/** Lets the browser save a file. */
export function saveFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  saveUrl(url, name);
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

export const saveText = (name: string, mediaType: string, text: string): void =>
  saveFile(name, new Blob([text], { type: `${mediaType};charset=utf-8` }));
