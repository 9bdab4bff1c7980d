/** Saves a text as a file of the person's machine. */
export function saveText(name: string, type: string, text: string): void {
  saveBlob(name, new Blob([text], { type }));
}

/** Saves what was made or fetched as a file of the person's machine. */
export function saveBlob(name: string, blob: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
