import { preferencesSchema } from '../../../../contract/preferences.ts';
import { body, json, personally } from '../../../../server/http/handler.ts';
import { preferencesOf, setIgnore } from '../../../../server/people/preferences.ts';

export const GET = personally(async (by) => json(preferencesSchema, await preferencesOf(by)));

export const PUT = personally(async (by, { request }) =>
  json(preferencesSchema, await setIgnore(by, (await body(request, preferencesSchema)).ignore)),
);
