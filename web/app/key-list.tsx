import { Dialog } from './dialog.tsx';

const LIST: readonly (readonly [string, string])[] = [
  ['/ or Ctrl K', 'Search'],
  ['?', 'This list'],
  ['g then m, b, r, s', 'Margins, Bench, Reckoner, Set-up'],
  ['j, k', 'Next row, previous row'],
  ['Enter', 'Open the row'],
  ['b', 'Bench for the row, or for the sensor on screen'],
  ['Space', 'Bench: capture'],
  ['n', 'Bench: start, next step, what the verdict says, write'],
  ['d', 'Bench: disturbed, settle again'],
  ['e', 'Bench: enter by hand'],
  ['Esc', 'Bench: pause'],
  ['↑, ↓', 'Reckoner: through the sums'],
];

export function KeyList({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} title="Keys" onClose={onClose}>
      <table className="w-full">
        <tbody>
          {LIST.map(([key, what]) => (
            <tr key={key} className="border-t border-base-300">
              <td className="py-1.5 pr-4">
                <kbd className="key">{key}</kbd>
              </td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="sub mt-3 text-sm">Every key has a button. Single keys can be switched off in Set-up.</p>
    </Dialog>
  );
}
