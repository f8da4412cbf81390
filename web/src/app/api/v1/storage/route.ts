import { storageSchema } from '../../../../contract/storage.ts';
import { json, route } from '../../../../server/http/handler.ts';
import { getStorage } from '../../../../server/storage/service.ts';

export const GET = route(async (by) => json(storageSchema, await getStorage(by)));
