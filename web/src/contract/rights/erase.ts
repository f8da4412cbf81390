import { right } from './right.ts';

export const erase = right({
  id: 'erase',
  doing: 'erase versions',
  roles: ['lead'],
  needs: ['see old versions'],
});
