import { files } from '../../../../../../contract/operations/files.ts';
import { answered, serve, serveUpload } from '../../../../../../server/http/serve.ts';
import { checkIn } from '../../../../../../server/versions/checkin.ts';
import { wholeOf } from '../../../../../../server/versions/delta-upload.ts';
import { listVersions } from '../../../../../../server/versions/service.ts';

export const GET = serve(files.versions, (by, { fileId, query }) => listVersions(by, fileId, query));

export const POST = serveUpload(files.checkIn, async (by, { fileId }, { note = '', base, key, ...said }, incoming) => {
  const result = await checkIn(by, fileId, await wholeOf(by, incoming, said), {
    note,
    base,
    key,
    allowOtherFormat: said.allowOtherFormat === 'yes',
    keep: said.keep === 'yes',
    branch: said.branch === 'yes',
    line: said.line,
  });
  return answered(files.checkIn, result, { status: result.made ? 201 : 200 });
});
