/** Hands a made file to the browser to be saved. */
export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  // The browser has begun reading by then.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
