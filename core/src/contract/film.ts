/** Forms of pictures that move, which every program shows. */
export const filmForms = ['gif', 'webp'] as const;
export type FilmForm = (typeof filmForms)[number];

/** What people call them. */
export const filmFormWords: Readonly<Record<FilmForm, string>> = { gif: 'GIF', webp: 'WebP' };
