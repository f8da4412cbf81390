import { checkouts } from '../../../../contract/operations/checkouts.ts';
import { serve } from '../../../../server/http/serve.ts';
import { checkOut, giveUp, listHeld } from '../../../../server/checkouts/service.ts';

export const GET = serve(checkouts.list, (by, { query }) => listHeld(by, query));

export const POST = serve(checkouts.take, (by, { body: { files, ...how } }) => checkOut(by, files, how));

export const DELETE = serve(checkouts.giveUp, async (by, { body }) => ({
  givenUp: await giveUp(by, body.files, body.line),
}));
