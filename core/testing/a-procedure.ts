import { builtIn, type Procedure, type ProcedureKind } from '../sensor/procedures.ts';

/** A procedure of this kind, as it ships or with what `of` says. For tests. */
export const procedureFor = (kind: ProcedureKind, of: Partial<Procedure> = {}): Procedure => ({ ...builtIn(kind), ...of }); // prettier-ignore
