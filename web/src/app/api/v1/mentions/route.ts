import { mentionSchema } from '../../../../contract/comments.ts';
import { listMentions } from '../../../../server/comments/service.ts';
import { json, route } from '../../../../server/http/handler.ts';

export const GET = route(async (by) => json(mentionSchema.array(), await listMentions(by)));
