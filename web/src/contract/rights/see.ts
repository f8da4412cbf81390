import { right } from './right.ts';

export const see = right({
  id: 'see',
  doing: 'see this',
  means: 'The newest versions: looking, downloading, getting them to the desk.',
  roles: ['newest only', 'reader', 'checker', 'editor', 'lead'],
  needs: [],
});
