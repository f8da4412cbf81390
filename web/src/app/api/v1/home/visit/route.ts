import { home } from '../../../../../contract/operations/home.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { visit } from '../../../../../server/home/service.ts';

export const POST = serve(home.visit, (by) => visit(by));
