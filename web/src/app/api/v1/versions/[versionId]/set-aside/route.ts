import { versions } from '../../../../../../contract/operations/versions.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { setAside } from '../../../../../../server/lines/set-aside.ts';

export const POST = serve(versions.setAside, (by, { versionId, body }) => setAside(by, versionId, body));
