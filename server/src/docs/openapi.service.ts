import * as contract from '@auk/contract';
import { Injectable, RequestMethod } from '@nestjs/common';
import { METHOD_METADATA, PATH_METADATA } from '@nestjs/common/constants.js';
import { DiscoveryService, MetadataScanner, Reflector } from '@nestjs/core';
import { z } from 'zod';
import { ACCESS, type Access } from '../http/access.js';
import { ANSWERS, type Answer, type Shapes, TAKES } from '../http/api.js';

/** A JSON Schema (draft 2020-12), as OpenAPI 3.1 takes it. */
export type JsonSchema = Record<string, unknown>;

/** One operation of the API. */
export interface Operation {
  method: 'get' | 'post';
  path: string;
  tag: string;
  id: string;
  /** Who may call it, in words. */
  who: string;
  parameters: { name: string; in: 'path' | 'query'; required: boolean; schema: JsonSchema }[];
  body: JsonSchema | null;
  answer: JsonSchema | 'nothing' | 'file' | 'events';
}

const REFS = '#/components/schemas/';
const PREFIX = '/api/v1';

/** The forms of the contract by their names, so that answers can refer to them. */
const FORMS = z.registry<{ id: string }>();
for (const [id, form] of Object.entries(contract))
  if (form instanceof z.ZodType && !FORMS.has(form)) FORMS.add(form, { id });

/** The API as a document: made from the endpoints themselves and the contract's forms. */
@Injectable()
export class OpenApi {
  constructor(
    private readonly discovery: DiscoveryService,
    private readonly reflector: Reflector,
  ) {}

  /** All operations, by path. */
  operations(): Operation[] {
    const scanner = new MetadataScanner();
    return this.discovery
      .getControllers()
      .flatMap(({ instance, metatype }) =>
        scanner.getAllMethodNames(Object.getPrototypeOf(instance)).flatMap((name): Operation[] => {
          const handler = instance[name] as () => unknown;
          const path = Reflect.getMetadata(PATH_METADATA, handler) as string | undefined;
          const at = Reflect.getMetadata(PATH_METADATA, metatype!) as string;
          if (path === undefined || at.startsWith('api/')) return [];
          return [this.operation(handler, `${metatype!.name}.${name}`, `/${at}/${path}`)];
        }),
      )
      .sort((a, b) => (a.path < b.path ? -1 : a.path > b.path ? 1 : a.method < b.method ? -1 : 1));
  }

  private operation(handler: () => unknown, id: string, raw: string): Operation {
    const path = `${PREFIX}${raw.replace(/\/+/g, '/').replace(/(.)\/$/, '$1')}`;
    const takes = this.reflector.get<Shapes | undefined>(TAKES, handler);
    const method = Reflect.getMetadata(METHOD_METADATA, handler) as RequestMethod;
    const query = takes?.query ? sent(takes.query) : null;
    const required = new Set((query?.required as string[] | undefined) ?? []);
    return {
      method: method === RequestMethod.POST ? 'post' : 'get',
      path: path.replace(/:(\w+)/g, '{$1}'),
      tag: path.split('/')[3] ?? '',
      id,
      who: whoOf(this.reflector.get<Access | undefined>(ACCESS, handler)),
      parameters: [
        ...[...path.matchAll(/:(\w+)/g)].map(m => ({
          name: m[1]!,
          in: 'path' as const,
          required: true,
          schema: { type: 'string' },
        })),
        ...Object.entries((query?.properties as Record<string, JsonSchema> | undefined) ?? {}).map(
          ([name, schema]) => ({ name, in: 'query' as const, required: required.has(name), schema }),
        ),
      ],
      body: takes?.body ? sent(takes.body) : null,
      answer: answered(this.reflector.get<Answer>(ANSWERS, handler)),
    };
  }

  /** The OpenAPI 3.1 document. */
  document(): object {
    const paths: Record<string, Record<string, object>> = {};
    for (const o of this.operations()) {
      paths[o.path] = { ...paths[o.path], [o.method]: operationOf(o) };
    }
    return {
      openapi: '3.1.0',
      jsonSchemaDialect: 'https://json-schema.org/draft/2020-12/schema',
      info: { title: 'Auk', version: 'v1', description: 'Everything the screens do goes through this.' },
      paths,
      components: {
        schemas: forms(),
        securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'auk' } },
      },
    };
  }
}

const whoOf = (access: Access | undefined): string =>
  access === undefined
    ? 'nobody'
    : typeof access === 'string'
      ? access
      : `whoever has the right “${contract.RIGHTS[access.right].words}”`;

/** Forms that hold themselves, by their ids: what is sent refers to them. */
const HELD = new Map<string, JsonSchema>();

/** A form as it is sent: whole, with what may be left out left out. */
function sent(form: z.ZodType): JsonSchema {
  const { $schema: _, $defs, ...schema } = z.toJSONSchema(form, { io: 'input', unrepresentable: 'any' });
  for (const [id, held] of Object.entries($defs ?? {})) HELD.set(id, referring(held as JsonSchema));
  return referring(schema);
}

/** The same, with its references into the document. */
const referring = (schema: object): JsonSchema =>
  JSON.parse(JSON.stringify(schema).replaceAll('#/$defs/', REFS)) as JsonSchema;

function answered(answer: Answer | undefined): Operation['answer'] {
  if (answer === undefined || answer === 'nothing') return 'nothing';
  if (typeof answer === 'string') return answer;
  const named = FORMS.get(answer);
  if (named) return { $ref: REFS + named.id };
  const {
    $schema: _,
    $defs: __,
    ...schema
  } = z.toJSONSchema(answer, { metadata: FORMS, unrepresentable: 'any' });
  return referring(schema);
}

function forms(): Record<string, JsonSchema> {
  const { schemas } = z.toJSONSchema(FORMS, { uri: id => REFS + id, unrepresentable: 'any' });
  return Object.fromEntries([
    ...Object.entries(schemas).map(([id, { $id: _, $schema: __, ...schema }]) => [id, schema as JsonSchema]),
    ...HELD,
  ]);
}

const PROBLEM = {
  description: 'A refusal, with what, why and cure (RFC 9457).',
  content: { 'application/problem+json': { schema: { $ref: `${REFS}Problem` } } },
};

function operationOf(o: Operation): object {
  return {
    operationId: o.id,
    tags: [o.tag],
    description: `For ${o.who}.`,
    ...(o.who === 'anyone' ? {} : { security: [{ session: [] }] }),
    parameters: o.parameters,
    ...(o.body
      ? { requestBody: { required: true, content: { 'application/json': { schema: o.body } } } }
      : {}),
    responses: { 200: responseOf(o.answer), default: PROBLEM },
  };
}

function responseOf(answer: Operation['answer']): object {
  if (answer === 'nothing') return { description: 'Done.' };
  if (answer === 'file') return { description: 'A file.', content: { 'application/octet-stream': {} } };
  if (answer === 'events') return { description: 'Events.', content: { 'text/event-stream': {} } };
  return { description: 'Answered.', content: { 'application/json': { schema: answer } } };
}
