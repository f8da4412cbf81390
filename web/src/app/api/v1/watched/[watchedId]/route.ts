import { watched } from '../../../../../contract/operations/watched.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { removeWatched } from '../../../../../server/watched/service.ts';

export const DELETE = serve(watched.remove, (by, { watchedId }) => removeWatched(by, watchedId));
