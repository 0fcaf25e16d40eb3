/** Lets the browser save a text or a file under a name. */
export function saveFile(name: string, content: string | Blob, type = 'application/json'): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(typeof content === 'string' ? new Blob([content], { type }) : content);
  link.download = name;
  link.click();
  // A large file is still being read when the click returns.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
