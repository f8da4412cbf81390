import { projects } from '../../../../contract/operations/projects.ts';
import { serve } from '../../../../server/http/serve.ts';
import { findFiles } from '../../../../server/projects/service.ts';

export const GET = serve(projects.find, (by, { query }) => findFiles(by, query.q));
