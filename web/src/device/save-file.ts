/** Lets the browser save a file. */
export function saveFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

export const saveText = (name: string, mediaType: string, text: string): void =>
  saveFile(name, new Blob([text], { type: `${mediaType};charset=utf-8` }));
