import { Validator } from '@seriousme/openapi-schema-validator';
import Ajv2020 from 'ajv/dist/2020.js';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testApplication, type TestApplication } from '../testing/application.ts';
import { fromPhone, RESERVOIR, UP_TO_VERDICT } from '../testing/cast.ts';
import { STATUS } from '../errors.ts';
import { ROUTES } from './api.ts';

interface Operation {
  readonly operationId: string;
  readonly responses: Readonly<Record<string, { readonly content?: Readonly<Record<string, { readonly schema?: object }>> }>>; // prettier-ignore
}
interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, object>> };
}

let subject: TestApplication;
let document: Document;
let ajv: Ajv2020;
const ids: Record<string, string> = {};
const api = () => request(subject.app);
beforeAll(async () => {
  subject = await testApplication();
  document = (await api().get('/api/openapi.json')).body as Document;
  ajv = new Ajv2020({ strict: false, validateFormats: false, allErrors: true });
  ajv.addSchema({ $id: 'api', components: document.components });
  Object.assign(ids, (await api().post('/api/sensors').send(RESERVOIR)).body);
  const lot = { standardId: 'technical-7.00', label: 'K-1', expiresOn: '2027-05-31' };
  ids['lotId'] = ((await api().post('/api/lots').send(lot)).body as { lotId: string }).lotId;
  const points = [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }];
  const run = await api().post('/api/runs').send({ sensorId: ids['sensorId'], points, school: 'statistical' });
  ids['runId'] = (run.body as { runId: string }).runId;
});
afterAll(() => subject.close());

/** What an answer has that its schema has not, or the other way round. */
function troubleWith(answer: request.Response, operation: Operation): string {
  const { schema } = Object.values(operation.responses[answer.status]?.content ?? {})[0] ?? {};
  if (!schema) return `${answer.status} is not in the document`;
  const inPlace = JSON.parse(JSON.stringify(schema).replaceAll('"#/components', '"api#/components')) as object;
  return ajv.validate(inPlace, answer.body) ? '' : ajv.errorsText();
}

describe('the document of the API', () => {
  it('is OpenAPI 3.1 to a validator that is not ours, and has every route once', async () => {
    const validator = new Validator();
    const { valid, errors } = await validator.validate(JSON.parse(JSON.stringify(document)) as Record<string, unknown>);
    expect([valid, errors]).toEqual([true, undefined]);
    expect(validator.version).toBe('3.1');
    const operations = Object.values(document.paths).flatMap((path) => Object.values(path));
    // The live stream is beside the table.
    expect(operations).toHaveLength(ROUTES.length + 1);
    expect(new Set(operations.map((o) => o.operationId)).size).toBe(operations.length);
  });

  it('says of every route what it refuses, under the status that the refusal comes with', () => {
    for (const { method, path, refuses } of ROUTES) {
      const { responses } = document.paths[`/api${path.replaceAll(/:(\w+)/g, '{$1}')}`]![method]!;
      for (const code of refuses)
        expect(JSON.stringify(responses[STATUS[code]]), `${path} ${code}`).toContain(`"${code}"`);
      expect(JSON.stringify(responses[500])).toContain('"crash"');
    }
  });

  it('describes what is answered: every route that is read, and what is refused', async () => {
    await api()
      .post(`/api/runs/${ids['runId']}/events`)
      .send({ events: UP_TO_VERDICT.map((body, i) => fromPhone(i + 1, body)) });
    const troubles: string[] = [];
    let read = 0;
    for (const { method, path, gives } of ROUTES) {
      if (method !== 'get' || typeof gives !== 'string' || gives === 'Document') continue;
      const at = path.replaceAll(/:(\w+)/g, (_, name: string) => ids[name] ?? ids['runId']!);
      const query = path === '/cones' ? `?sensors=${ids['sensorId']}` : '';
      const answer = await api().get(`/api${at}${query}`);
      if (answer.status === 200) read++;
      const trouble = troubleWith(answer, document.paths[`/api${path.replaceAll(/:(\w+)/g, '{$1}')}`]![method]!);
      if (trouble) troubles.push(`${path} ${answer.status}: ${trouble.slice(0, 300)}`);
    }
    expect(troubles).toEqual([]);
    expect(read).toBeGreaterThan(11);
    const no = await api().post('/api/runs').send({ sensorId: ids['sensorId'], points: [], school: 'statistical' });
    expect([no.status >= 400, troubleWith(no, document.paths['/api/runs']!['post']!)]).toEqual([true, '']);
    const nobody = await api().get('/api/runs/00000000-0000-4000-8000-000000000000');
    expect([nobody.status, troubleWith(nobody, document.paths['/api/runs/{runId}']!['get']!)]).toEqual([404, '']);
  });
});
