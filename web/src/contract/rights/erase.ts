import { right } from './right.ts';

export const erase = right({
  id: 'erase',
  doing: 'erase versions',
  means: 'Removing later versions for good.',
  roles: ['lead'],
  needs: ['see old versions'],
});
