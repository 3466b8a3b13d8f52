import { INFOS, type ProcedureInfo } from '../sensor/procedures.ts';
import { familyOf } from './registry.ts';

/**
 * The procedures of a family, the usual one first.
 *
 * @example proceduresFor('temperature')[0].kind // 'thermometers'
 * @example proceduresFor('chlorine')[0].kind // 'sample'
 */
export const proceduresFor = (family: string): readonly ProcedureInfo[] =>
  familyOf(family).procedures.map((kind) => INFOS[kind]);
