import { Dialog } from './dialog.tsx';
import { keysInUse } from './keys.ts';

/** Every key that works on the page that is open, with what it does there. */
export function KeyList({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} title="Keys" onClose={onClose}>
      <table className="w-full">
        <tbody>
          {(open ? keysInUse() : []).map(([key, what]) => (
            <tr key={key} className="border-t border-base-300">
              <td className="py-1.5 pr-4 whitespace-nowrap">
                <kbd className="key">{key}</kbd>
              </td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="sub mt-3 text-sm">
        These work on this page. Every key has a button. Single keys can be switched off in Set-up.
      </p>
    </Dialog>
  );
}
