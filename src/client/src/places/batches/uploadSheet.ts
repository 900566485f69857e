import { api, dataOf, Refused, type Schema } from '../../api/client';

const mostMegabytes = 50;

/** Takes a file in; it may follow an earlier batch as next month's file does. */
export async function uploadSheet(sheet: File, follows?: string): Promise<Schema['BatchMade']> {
  // Said before anything is sent: a door that shuts in the middle of an upload can't say why.
  if (sheet.size > mostMegabytes * 1024 * 1024)
    throw new Refused(`A sheet has at most ${mostMegabytes} MB; split it.`, 413);
  const form = new FormData();
  form.append('file', sheet, sheet.name);
  if (follows) form.append('follows', follows);
  return dataOf<Schema['BatchMade']>(
    await api.POST('/api/v1/batches', {
      body: form as never,
      bodySerializer: (body: unknown) => body as FormData,
    } as never),
  );
}
