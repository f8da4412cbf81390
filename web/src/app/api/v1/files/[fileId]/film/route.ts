import { files } from '../../../../../../contract/operations/files.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { filmOf } from '../../../../../../server/versions/film.ts';

export const GET = serve(files.film, (by, { fileId, query }) => filmOf(by, fileId, query));
