import { right } from './right.ts';

export const checkOut = right({
  id: 'check out',
  doing: 'change files',
  roles: ['editor', 'lead'],
  needs: ['see'],
});
