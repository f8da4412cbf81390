/** People whom a text mentions: "@" and their name, or its first word where that is nobody else's. */
export function mentionedIn<P extends { readonly name: string }>(body: string, people: readonly P[]): P[] {
  const text = body.toLowerCase();
  const out = new Set<P>();
  const firstName = (p: P): string => (p.name.split(' ')[0] ?? '').toLowerCase();
  for (const person of people) {
    const names = [
      person.name.toLowerCase(),
      ...(people.filter((p) => firstName(p) === firstName(person)).length === 1 ? [firstName(person)] : []),
    ];
    // Not within a longer word: "@Ines" is not in "@Inessa", and an e-mail address mentions nobody.
    if (
      names.some(
        (name) =>
          name &&
          new RegExp(`(?<![\\p{L}\\d.])@${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}\\d])`, 'u').test(text),
      )
    )
      out.add(person);
  }
  return [...out];
}
