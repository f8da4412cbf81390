/** Keys of what is sent, so that what is sent again, because its answer was lost, is not done twice. */

/** A random id (version 4). Also on pages that are not secure, where the browser's own function is missing. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/** Gives the same key as long as the same is sent, and a new one for something else. */
export class KeyOfSent {
  private sent: readonly unknown[] = [];
  private key = '';

  /** `what` is all that is sent: texts, and files as they were chosen. */
  for(...what: readonly unknown[]): string {
    const isSame = what.length === this.sent.length && what.every((part, i) => part === this.sent[i]);
    if (!isSame || this.key === '') this.key = newKey();
    this.sent = what;
    return this.key;
  }
}
