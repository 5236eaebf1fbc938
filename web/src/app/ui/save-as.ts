/** Has the browser keep what an address gives, under the name that comes with it. */
export function saveAs(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = '';
  link.click();
}

/** Has the browser keep bytes or text under a name. */
export function saveFile(content: BlobPart, name: string, type: string): void {
  const address = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has begun to read it by then.
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}
