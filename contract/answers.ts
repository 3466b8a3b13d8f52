import type { LoopId, SensorId } from '@frustum/core';
import type { LimitsView } from './alarm-limits.ts';
import type { AlarmWaysView } from './alarm-ways.ts';
import type { NoticeRow } from './notices.ts';
import type { WalkView } from './walks.ts';
import type { BackupsView } from './backups.ts';
import type { ChangeRow, PersonRow, SetUpView, WouldBeView } from './changes.ts';
import type { DosesView } from './doses.ts';
import type { SurveyView } from './channels.ts';
import type { LifeView } from './life.ts';
import type { InventoryView } from './inventory.ts';
import type { LogInRow } from './log-ins.ts';
import type { LogbookView } from './logbook.ts';
import type { ReadingAt, ReadingsView, SensorView, ServiceRow } from './sensor-views.ts';
import type { ChangeSchedule } from './set-up.ts';
import type {
  ChannelTest,
  ConesView,
  HandsView,
  LotRow,
  MarginsView,
  OpenRunRow,
  OutlookView,
  Problem,
  ProcedureRow,
  RunView,
  ShelfView,
} from './views.ts';
import type { AlarmRow, AlarmsView } from './watching.ts';

/**
 * Everything that the API answers, by name: a route names what it gives, its work must give that, and the API's document has its
 * schema from here.
 */
export interface Answers {
  readonly Nothing: null;
  readonly Health: { readonly ok: boolean; readonly demo: boolean; readonly trouble?: string };
  readonly Margins: MarginsView;
  readonly Cones: ConesView;
  readonly Clock: { readonly nowMs: number };
  readonly Alarms: AlarmsView;
  readonly Alarm: AlarmRow;
  readonly AlarmWays: AlarmWaysView;
  readonly Limits: LimitsView;
  readonly Notices: readonly NoticeRow[];
  readonly Notice: NoticeRow;
  readonly Walk: WalkView;
  readonly Sensor: SensorView;
  readonly AddedSensor: { readonly loopId: LoopId; readonly sensorId: SensorId };
  readonly Readings: ReadingsView;
  readonly ReadingAt: ReadingAt;
  readonly Service: ServiceRow;
  readonly Schedule: Omit<ChangeSchedule, 'was'>;
  readonly SetUp: SetUpView;
  /** the version that it has now */
  readonly SetUpVersion: { readonly version: number };
  readonly AddedSpare: { readonly sensorId: SensorId };
  readonly Life: LifeView;
  readonly Logbook: LogbookView;
  readonly Changes: readonly ChangeRow[];
  readonly WouldBe: WouldBeView;
  readonly Inventory: InventoryView;
  readonly LogIns: readonly LogInRow[];
  readonly People: readonly PersonRow[];
  readonly Person: PersonRow;
  readonly Doses: DosesView;
  readonly KeptDoses: { readonly kept: number };
  readonly ChannelTest: ChannelTest;
  readonly Survey: SurveyView;
  /** channels that are not read: by id */
  readonly HeldChannels: { readonly held: readonly string[] };
  readonly ChannelVersion: { readonly version: number };
  readonly Shelf: ShelfView;
  readonly Lot: LotRow;
  readonly Procedures: readonly ProcedureRow[];
  readonly Procedure: ProcedureRow;
  readonly OpenRuns: readonly OpenRunRow[];
  readonly Run: RunView;
  readonly Outlook: OutlookView;
  readonly Photo: { readonly photoId: string };
  readonly Hands: HandsView;
  readonly Backups: BackupsView;
  readonly Snapshot: { readonly name: string };
  readonly Restored: { readonly restored: true };
  /** the document of the API itself: OpenAPI 3.1 */
  readonly Document: Readonly<Record<string, unknown>>;
  /** what every refusal is answered with */
  readonly Problem: Problem;
}
