import { right } from './right.ts';

export const checkOut = right({
  id: 'check out',
  doing: 'change files',
  means: 'Changing files: check-out, check-in, making, renaming, moving, deleting and bringing back.',
  roles: ['editor', 'lead'],
  needs: ['see'],
});
