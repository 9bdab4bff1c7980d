import { type ImportKind, ImportReport, ImportRun } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { download, get, post } from '../api.js';

/** While a file is taken in, it is asked how far it is; the live stream says so too, where it is to be had. */
const ASK_MS = 500;

/** Where the file is from, how it is called, and which column is what. */
export type FileQuestion = Record<string, string>;

const pathOf = (kind: ImportKind, question: FileQuestion, more = '') =>
  `imports/${kind}${more}?${new URLSearchParams(question)}`;

export const runsQuery = queryOptions({
  queryKey: ['imports'],
  queryFn: () => get(ImportRun.array(), 'imports/runs'),
});

export const runQuery = (id: string) =>
  queryOptions({
    queryKey: ['imports', id],
    queryFn: () => get(ImportRun, `imports/runs/${id}`),
    refetchInterval: query => (query.state.data?.state === 'under way' ? ASK_MS : false),
  });

/** What a file would do; nothing is changed. */
export const previewFile = (kind: ImportKind, question: FileQuestion, file: File) =>
  post(ImportReport, pathOf(kind, question), file);

/** Takes a file in under the id of its run: sent twice, it is taken in once. */
export const takeFile = (kind: ImportKind, question: FileQuestion, id: string, file: File) =>
  post(ImportRun, pathOf(kind, { ...question, id }, '/runs'), file);

/** Saves the rows that are left out as a file to be mended. */
export const saveBadRows = (kind: ImportKind, question: FileQuestion, file: File) =>
  download(pathOf(kind, question, '/bad'), file, `mend ${file.name.replace(/\.\w+$/, '')}.csv`);
