/** Has the browser keep what an address gives, under the name that comes with it. */
export function saveAs(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = '';
  link.click();
}
