import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { flatViews } from '../../../../../../server/versions/view.ts';

export const GET = serve(versions.flatViews, (by, { versionId }) => flatViews(by, versionId));
