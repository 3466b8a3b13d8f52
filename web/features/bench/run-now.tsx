import type { BenchRun } from './use-run.ts';
import type { LiveTrace } from './use-live-trace.ts';
import { AdjustPanel } from './verdict/adjust-panel.tsx';
import { ConfirmPanel } from './confirm-panel.tsx';
import { EndedPanel } from './verdict/ended-panel.tsx';
import { EnterPanel } from './enter/enter-panel.tsx';
import { SettlePanel, type SettlingReport } from './settle/settle-panel.tsx';
import { VerdictPanel } from './verdict/verdict-panel.tsx';
import { WaitPanel } from './wait-panel.tsx';

/**
 * What a run asks for now: one panel for each kind of step.
 *
 * @param focused false while another run is in hand: a settling is watched on, and nothing else is shown or listens to keys
 */
export function RunNow({
  run,
  trace,
  focused = true,
  byItself = false,
  onReport,
}: {
  run: BenchRun;
  trace: LiveTrace;
  focused?: boolean;
  byItself?: boolean;
  onReport?: (report: SettlingReport) => void;
}) {
  const { current: step, status } = run.state;
  if (status === 'open' && step?.kind === 'settle')
    return (
      <SettlePanel
        key={step.id}
        run={run}
        step={step}
        trace={trace}
        focused={focused}
        byItself={byItself}
        onReport={onReport}
      />
    );
  if (!focused) return null;
  if (status !== 'open') return <EndedPanel run={run} />;
  if (!step) return null;
  if (step.kind === 'decide') return <VerdictPanel run={run} />;
  if (step.kind === 'adjust') return <AdjustPanel run={run} />;
  if (step.kind === 'wait') return <WaitPanel key={step.id} run={run} step={step} />;
  if (step.kind === 'enter') return <EnterPanel key={step.id} run={run} step={step} trace={trace} />;
  return <ConfirmPanel key={step.id} run={run} step={step} trace={trace} />;
}
