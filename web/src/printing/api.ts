import { PaperTemplate } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, send } from '../api.js';

export const templatesQuery = queryOptions({
  queryKey: ['templates'],
  queryFn: () => get(PaperTemplate.array(), 'printing/templates'),
});

export const saveTemplate = (template: object) => send('printing/templates', template);
export const removeTemplate = (id: string) => send(`printing/templates/${id}/remove`);
