import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, Refused, type Schema } from '../../../api/client';
import { cleaned, type Look } from './look';

/** A code as it would be drawn, and whether it scans. */
export const codeQuery = (id: string, look: Look) =>
  queryOptions({
    queryKey: ['code', id, look],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/links/{id}/code', {
          params: { path: { id }, query: cleaned(look) as Record<string, never> },
        }),
      ),
  });

/** Logos that codes can have. */
export const logosQuery = () =>
  queryOptions({
    queryKey: ['code-logos'],
    queryFn: async () => dataOf(await api.GET('/api/v1/code-logos')),
  });

/** How many codes there would be, and on how many pages. */
export const codesCountQuery = (asked: Schema['SheetOfCodes']) =>
  queryOptions({
    queryKey: ['codes-count', asked],
    queryFn: async () => dataOf(await api.POST('/api/v1/codes/count', { body: asked })),
  });

/** Keeps a logo for codes. */
export const logoKeep = () =>
  mutationOptions({
    mutationFn: async (picture: File) => {
      const form = new FormData();
      form.append('file', picture);
      return dataOf(
        await api.POST('/api/v1/code-logos', { body: form as never, bodySerializer: (body) => body }),
      ) as Schema['LogoAnswer'];
    },
    meta: { outdates: [logosQuery().queryKey] },
  });

/** Removes a logo. */
export const logoRemove = () =>
  mutationOptions({
    mutationFn: async (id: string) => dataOf(await api.DELETE('/api/v1/code-logos/{id}', { params: { path: { id } } })),
    meta: { outdates: [logosQuery().queryKey] },
  });

/** A sheet of codes to print, as PDF. */
export const codeSheetMake = async (body: Schema['SheetOfCodes']) =>
  fileOf(await api.POST('/api/v1/codes/sheet.pdf', { body, parseAs: 'blob' }));

/** Codes as single files in a zip. */
export const codeFilesMake = async (body: Schema['CodeFiles']) =>
  fileOf(await api.POST('/api/v1/codes.zip', { body, parseAs: 'blob' }));

function fileOf(answer: { data?: unknown; error?: unknown; response: Response }): Blob {
  if (!answer.response.ok) dataOf(answer);
  if (!answer.data) throw new Refused('The download failed. Try again.', answer.response.status);
  return answer.data as Blob;
}
