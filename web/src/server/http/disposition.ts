/** Content-Disposition for a download (RFC 6266): the real name, and a plain one for old programs. */
import { create } from 'content-disposition';

export const attachment = (fileName: string): string => create(fileName, { fallback: plain(fileName) });

const plain = (fileName: string): string =>
  fileName
    .normalize('NFKD')
    .replace(/[^\x20-\x7e]/g, '')
    .replace(/["\\%]/g, '_') || 'download';
