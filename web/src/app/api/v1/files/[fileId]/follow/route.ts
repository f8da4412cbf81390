import { home } from '../../../../../../contract/operations/home.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { follow, follows } from '../../../../../../server/home/service.ts';

export const GET = serve(home.follows, (by, { fileId }) => follows(by, fileId));

export const PUT = serve(home.follow, (by, { fileId, body }) => follow(by, fileId, body.follows));
