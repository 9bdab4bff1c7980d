import { RouteParamtypes } from '@nestjs/common/enums/route-paramtypes.enum.js';
import { Reflector } from '@nestjs/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ANSWERS, type Shapes, TAKES } from '../src/http/api.js';
import { endpoints, type House, openHouse } from './house.js';

let house: House;
let api: Document;
beforeAll(async () => {
  house = await openHouse('small');
  api = (await (await fetch(`${house.url}/api/docs/openapi.json`)).json()) as Document;
});
afterAll(() => house.close());

interface Document {
  openapi: string;
  paths: Record<string, Record<string, { operationId: string; security?: object[]; parameters: object[] }>>;
  components: { schemas: Record<string, object> };
}

test('every endpoint says what it takes and what it answers', () => {
  const reflector = new Reflector();
  const silent = endpoints(house).filter(({ handler, args }) => {
    const takes = reflector.get<Shapes | undefined>(TAKES, handler);
    return (
      !reflector.get(ANSWERS, handler) ||
      args.includes(RouteParamtypes.BODY) !== Boolean(takes?.body) ||
      args.includes(RouteParamtypes.QUERY) !== Boolean(takes?.query)
    );
  });
  expect(silent.map(e => e.id)).toEqual([]);
});

test('the documentation has every endpoint once, and every reference in it leads somewhere', () => {
  const told = Object.values(api.paths).flatMap(methods => Object.values(methods).map(o => o.operationId));
  const there = endpoints(house)
    .map(e => e.id)
    .filter(id => !id.startsWith('DocsController.'));
  expect(api.openapi).toBe('3.1.0');
  expect(there.length).toBeGreaterThan(100);
  expect([...told].sort()).toEqual([...there].sort());
  const forms = new Set(Object.keys(api.components.schemas).map(id => `#/components/schemas/${id}`));
  const refs = [...JSON.stringify(api).matchAll(/"\$ref":"([^"]+)"/g)].map(m => m[1]!);
  expect(refs.length).toBeGreaterThan(100);
  expect(refs.filter(ref => !forms.has(ref))).toEqual([]);
});

test('whoever is not signed in is told so where the documentation says it', async () => {
  for (const [path, methods] of Object.entries(api.paths))
    for (const [method, operation] of Object.entries(methods)) {
      if (!operation.security) continue;
      const url = house.url + path.replace(/\{\w+\}/g, 'x');
      const { status } = await fetch(url, { method: method.toUpperCase() });
      expect([path, status]).toEqual([path, 401]);
    }
});

test('the page needs no script and no other host', async () => {
  const page = await fetch(`${house.url}/api/docs`);
  const html = await page.text();
  expect(page.headers.get('content-type')).toContain('text/html');
  expect(html).not.toMatch(/<script|https?:\/\//);
  for (const path of Object.keys(api.paths)) expect(html).toContain(`<code>${path}</code>`);
});
