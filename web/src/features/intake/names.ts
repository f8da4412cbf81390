/** The last part of a path. */
export const baseName = (path: string): string => path.split('/').at(-1) ?? path;
