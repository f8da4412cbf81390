/** Puts a text where it can be pasted from; tells whether that was possible. Over plain HTTP there is only the old way. */
export async function copied(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    return copiedBySelection(text);
  }
}

function copiedBySelection(text: string): boolean {
  const field = document.createElement('textarea');
  field.value = text;
  document.body.append(field);
  field.select();
  // Marked as old, and still the only way where a page came without encryption.
  const isCopied = (document as unknown as { execCommand: (command: string) => boolean }).execCommand('copy');
  field.remove();
  return isCopied;
}
