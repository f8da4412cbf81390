import { programOf } from './program.ts';

const firefox = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0';
const chrome =
  'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0 Safari/537.36';
const safari = 'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 Version/18.0 Safari/604.1';

test('browsers are said by name and system, whatever else they claim to be', () => {
  expect(programOf(`192.0.2.7, ${firefox}`)).toBe('192.0.2.7, Firefox on Linux');
  expect(programOf(`192.0.2.7, ${chrome}`)).toBe('192.0.2.7, Chrome on Windows');
  expect(programOf(`2001:db8::1, ${safari}`)).toBe('2001:db8::1, Safari on iOS');
  expect(programOf(`192.0.2.7, ${chrome} Edg/150.0`)).toBe('192.0.2.7, Edge on Windows');
});

test('other programs are said as they call themselves', () => {
  expect(programOf('192.0.2.7, nightly-script/2')).toBe('192.0.2.7, nightly-script/2');
  expect(programOf('192.0.2.7')).toBe('192.0.2.7');
  expect(programOf('')).toBe('unknown');
});
