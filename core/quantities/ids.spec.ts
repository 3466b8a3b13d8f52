import { expectTypeOf, it } from 'vitest';
import type { LoopId, SensorId } from './ids.ts';

it('the id of one kind is never taken for another’s, and text from outside may become one', () => {
  expectTypeOf<LoopId>().not.toExtend<SensorId>();
  expectTypeOf<string>().toExtend<SensorId>();
  expectTypeOf<SensorId>().toExtend<string>();
});
