/** What a model that was drawn flat says of itself. */
export const FLAT = 'flat';
