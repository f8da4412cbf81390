/** Names of projects, folders and files. */
import { Problem } from './problem.ts';

const LONGEST = 200;
// Control characters, and the marks that turn the direction of writing (they can make "gpj.exe" look like "exe.jpg").

const hidden = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g;

/** The name in normal form. Throws a Problem that says what is wrong with a name that a person typed. */
export function checkName(text: string, what: 'project' | 'folder' | 'file'): string {
  const name = text.normalize('NFC').trim();
  const refuse = (sentence: string): never => {
    throw new Problem(400, 'bad-name', sentence);
  };
  if (!name) refuse(`A ${what} needs a name.`);
  if (/[/\\]/.test(name)) refuse(`The name of a ${what} can't contain / or \\. Use folders to sort files.`);
  if (name.search(hidden) >= 0)
    refuse(
      'The name contains characters that cannot be seen (control characters or marks that turn the direction of writing). Type it again without them.',
    );
  if (name === '.' || name === '..') refuse(`“${name}” can't be the name of a ${what}.`);
  if (name.length > LONGEST)
    refuse(`The name has ${name.length} characters; a ${what}'s name can have at most ${LONGEST}.`);
  return name;
}

/** A usable name from whatever an uploaded file is called, and a sentence if it had to be changed. */
export function cleanFileName(text: string): { name: string; hint: string | undefined } {
  const given = text.normalize('NFC');
  let name = given
    .replace(hidden, '')
    .replace(/^.*[/\\]/, '')
    .trim();
  if (name === '' || name === '.' || name === '..') name = 'unnamed';
  if (name.length > LONGEST) {
    const ending = /\.[^.]{1,10}$/.exec(name)?.[0] ?? '';
    name = name.slice(0, LONGEST - ending.length) + ending;
  }
  return {
    name,
    hint:
      name === given
        ? undefined
        : `The file's name was changed to “${name}”: the original has parts that a name can't have here.`,
  };
}
