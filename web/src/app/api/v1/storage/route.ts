import { storage } from '../../../../contract/operations/storage.ts';
import { serve } from '../../../../server/http/serve.ts';
import { getStorage } from '../../../../server/storage/service.ts';

export const GET = serve(storage.get, getStorage);
