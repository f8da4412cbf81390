import { openApi } from '../../../contract/openapi.ts';

export const GET = (): Response => Response.json(openApi());
