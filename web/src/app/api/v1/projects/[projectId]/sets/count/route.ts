import { sets } from '../../../../../../../contract/operations/sets.ts';
import { serve } from '../../../../../../../server/http/serve.ts';
import { countedSets } from '../../../../../../../server/sets/sets.ts';

export const GET = serve(sets.count, (by, { projectId, query }) => countedSets(by, projectId, query));
