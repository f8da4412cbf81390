/** What a browser calls itself, in the words of its users. */

const systems: readonly (readonly [RegExp, string])[] = [
  [/Windows/, 'Windows'],
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Mac OS X/, 'macOS'],
  [/Linux|X11/, 'Linux'],
];

/** The more special come first: most call themselves by the names of others, too. */
const browsers: readonly (readonly [RegExp, string])[] = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/Chrome\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];

const nameIn = (list: readonly (readonly [RegExp, string])[], text: string): string | undefined =>
  list.find(([pattern]) => pattern.test(text))?.[1];

/** Address and program of a request (`address, user agent`), short: “192.0.2.7, Firefox on Linux”. */
export function programOf(origin: string): string {
  const [address = '', ...rest] = origin.split(', ');
  const agent = rest.join(', ');
  const browser = nameIn(browsers, agent);
  const system = nameIn(systems, agent);
  const program = [browser, system].filter((name) => name !== undefined).join(' on ') || agent.slice(0, 60);
  return [address, program].filter((text) => text !== '').join(', ') || 'unknown';
}
