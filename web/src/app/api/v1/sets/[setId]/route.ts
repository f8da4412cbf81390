import { sets } from '../../../../../contract/operations/sets.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { getSet } from '../../../../../server/sets/sets.ts';

export const GET = serve(sets.get, (by, { setId }) => getSet(by, setId));
