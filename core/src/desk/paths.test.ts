import { unwritable } from './paths.ts';

test.each([
  'plan.svg',
  'Details/fender v2.dxf',
  'Größen/Übersicht (1).md',
  'console.txt',
  'com.svg',
  'a.b.c',
  'auxiliary/lpt.txt',
])('%s may be written', (path) => expect(unwritable(path)).toBeUndefined());

test.each([
  ['../plan.svg', /leads elsewhere/],
  ['/etc/passwd', /leads elsewhere/],
  ['a//b', /leads elsewhere/],
  ['.git/hooks/post-checkout', /“\.git” begins with a dot/],
  ['Details/.htaccess', /“\.htaccess” begins with a dot/],
  ['.ovrel-desk.json', /begins with a dot/],
  ['NUL', /a device/],
  ['Details/con.svg', /a device/],
  ['COM1.txt', /a device/],
  ['plan.svg ', /ends with a dot or a space/],
  ['Details./plan.svg', /ends with a dot or a space/],
  ['~$plan.docx', /being written/],
  ['plan.svg.ovrel-part', /being written/],
  ['a\\b.svg', /characters that a name can't have/],
])('%s may not: %s', (path, why) => expect(unwritable(path)).toMatch(why));
