/** What is taken in at once. Files lie on the disk until they are sent; what is known of each is held in memory. */

const GB = 1024 ** 3;

/** As many files as the server takes in one form. */
export const MOST_COPIES = 2000;
export const MOST_BYTES = 8 * GB;
/** A ZIP is unpacked into what the browser has for such things. */
export const MOST_IN_ZIP = 2 * GB;
/** One copy is read as a whole. */
export const MOST_OF_ONE = GB;
