import { right } from './right.ts';

export const erase = right({
  id: 'erase',
  doing: 'erase versions',
  means: 'Removing later versions for good. Nothing uses it yet.',
  roles: ['lead'],
  needs: ['see old versions'],
});
