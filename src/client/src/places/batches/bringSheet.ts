import { api, dataOf, type Schema } from '../../api/client';

/** Takes a file in; it may follow an earlier batch as next month's file does. */
export async function bringSheet(sheet: File, follows?: string): Promise<Schema['BatchMade']> {
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
