/** Hands a text to the browser as a file. */
export const download = (name: string, type: string, text: string): void => downloadFile(name, type, text);

/** The same with bytes. */
export function downloadFile(name: string, type: string, content: BlobPart): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const a = document.createElement('a');
  a.href = url;
  a.download = name;
  a.click();
  URL.revokeObjectURL(url);
}
