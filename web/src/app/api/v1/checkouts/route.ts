import { z } from 'zod';
import { checkOutSchema, checkoutSchema, giveUpSchema, heldQuerySchema } from '../../../../contract/desk.ts';
import { checkOut, giveUp, listHeld } from '../../../../server/checkouts/service.ts';
import { body, json, query, route } from '../../../../server/http/handler.ts';

export const GET = route(async (by, { url }) =>
  json(z.array(checkoutSchema), await listHeld(by, query(url, heldQuerySchema))),
);

export const POST = route(async (by, { request }) => {
  const { files, desk, from } = await body(request, checkOutSchema);
  return json(z.array(checkoutSchema), await checkOut(by, files, desk, from), 201);
});

export const DELETE = route(async (by, { request }) => {
  const { files } = await body(request, giveUpSchema);
  return json(z.object({ givenUp: z.number().int() }), { givenUp: await giveUp(by, files) });
});
