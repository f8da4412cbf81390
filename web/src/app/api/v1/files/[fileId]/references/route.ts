import { addReferenceSchema, removeReferenceSchema } from '../../../../../../contract/desk.ts';
import { body, route } from '../../../../../../server/http/handler.ts';
import { addReference, removeReference } from '../../../../../../server/references/service.ts';

export const POST = route(async (by, { request, params }) => {
  const { to, says } = await body(request, addReferenceSchema);
  await addReference(by, params['fileId'] ?? '', to, says);
  return new Response(null, { status: 204 });
});

export const DELETE = route(async (by, { request, params }) => {
  await removeReference(by, params['fileId'] ?? '', (await body(request, removeReferenceSchema)).to);
  return new Response(null, { status: 204 });
});
