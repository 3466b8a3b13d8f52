import { oddRecord, type Entry, type RunEventBody } from '@frustum/core';

const entryWords = (entry: Entry) =>
  entry.kind === 'sample'
    ? `sample ${entry.value} ±${entry.plusMinus} ${entry.unit} at ${entry.temperatureC} °C`
    : `thermometers ${entry.a.temperatureC} ±${entry.a.plusMinusC} and ${entry.b.temperatureC} ±${entry.b.plusMinusC} °C`;

const both = ({ zero, sensitivity }: { readonly zero: number; readonly sensitivity: number }, signalUnit: string) =>
  `${zero} ${signalUnit}, ${Number((100 * sensitivity).toPrecision(6))} %`;

/** One event of a run in a line, for the record. @param signalUnit of its family, where it is known */
export function eventWords(body: RunEventBody, signalUnit = 'as measured'): string {
  switch (body.type) {
    case 'started':
      return 'begun';
    case 'step-done':
      return `${body.stepId} done`;
    case 'step-reopened':
      return `back to ${body.stepId}; what followed no longer counts`;
    case 'disturbed':
      return `disturbed at ${body.stepId}${body.noticed ? ', seen in the trace' : ''}`;
    case 'captured':
      return `captured ${body.capture.signal} ${signalUnit} at ${body.capture.temperatureC} °C, ${body.capture.method} (${body.stepId})`;
    case 'entered':
      return `entered: ${entryWords(body.entry)}`;
    case 'skipped':
      return `${body.stepId} passed over, because ${body.because}`;
    case 'photographed':
      return `picture kept at ${body.stepId}${body.typed ? `, read as ${body.typed}` : ''}`;
    case 'warned':
      return `${body.kept ? 'kept in spite of: ' : 'noticed: '}${oddRecord(body.odd, body.kept)}`;
    case 'noted':
      return `note: ${body.text}`;
    case 'hold-released':
      return 'hold released';
    case 'decided':
      return `decided: ${body.action}${body.because ? `, because ${body.because}` : ''}`;
    case 'adjusted':
      return `adjusted to ${both(body.coefficients, signalUnit)} (${body.how.replaceAll('-', ' ')})`;
    case 'adjustment-refused':
      return `the instrument refused it: “${body.message}”${body.shows ? `, showing ${both(body.shows, signalUnit)}` : ''}`;
    case 'closed':
      return 'closed';
    case 'abandoned':
      return `abandoned, because ${body.because}`;
  }
}
