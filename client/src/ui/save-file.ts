/** Hands a file over to the person as a download. */
export function saveBlob(name: string, content: Blob): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has begun to copy by then; the address only needs to outlive the click.
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

export function saveText(name: string, type: string, text: string): void {
  saveBlob(name, new Blob([text], { type }));
}

/** Lets the browser fetch a download from an address of the server, which streams it. */
export function saveFrom(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = '';
  link.click();
}
