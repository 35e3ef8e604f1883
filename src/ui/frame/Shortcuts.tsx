'use client';
import { Kbd, Modal } from '@mantine/core';

const keys: readonly (readonly [string, string])[] = [
  ['Ctrl K', 'Find any item, feed, field, category or page'],
  ['Ctrl Z', 'Take back the last change of the draft, or of the catalog'],
  ['← →', 'Previous and next pinned item, in the sample tray'],
  ['J, K', 'Next and previous listing, on the page of one'],
  ['Enter', 'Open the row at hand; Escape closes it'],
  ['Alt ← →', 'Move a part of a composition'],
  ['Delete', 'Take the part at hand out'],
  ['↑ ↓ ← →', 'Move in the grid of items; with Shift mark a block, Ctrl C and Ctrl V copy and paste it'],
  ['Enter, F2', 'Edit the cell at hand; Ctrl Space marks its item'],
  ['[', 'Fold the sidebar'],
  ['?', 'This list'],
];

export function Shortcuts({ opened, onClose }: { opened: boolean; onClose(): void }) {
  return (
    <Modal opened={opened} onClose={onClose} title="Keys" size="sm">
      <table className="plain">
        <tbody>
          {keys.map(([key, words]) => (
            <tr key={key}>
              <td style={{ whiteSpace: 'nowrap' }}>
                <Kbd>{key}</Kbd>
              </td>
              <td>{words}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  );
}
