import { keeping } from '../../../../../../contract/operations/keeping.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { cancelSweep, startSweep, sweepStands } from '../../../../../../server/keeping/service.ts';

export const GET = serve(keeping.sweep, (by, { projectId }) => sweepStands(by, projectId));

export const POST = serve(keeping.startSweep, (by, { projectId }) => startSweep(by, projectId));

export const DELETE = serve(keeping.cancelSweep, (by, { projectId }) => cancelSweep(by, projectId));
