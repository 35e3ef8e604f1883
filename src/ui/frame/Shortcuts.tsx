'use client';
import { Kbd, Modal } from '@mantine/core';

const keys: readonly (readonly [string, string])[] = [
  ['Ctrl K', 'Search items, fields, categories, rules and pages'],
  ['Ctrl Z', 'Undo the last change of the draft or the catalog'],
  ['← →', 'Previous or next item in the sample panel'],
  ['J, K', 'Next or previous listing on a listing page'],
  ['Enter', 'Open the focused row; Escape closes it'],
  ['Alt ← →', 'Move a part of a composition'],
  ['Delete', 'Remove the focused part'],
  ['↑ ↓ ← →', 'Move in the items grid; Shift selects a block, Ctrl C and Ctrl V copy and paste'],
  ['Enter, F2', 'Edit the focused cell; Ctrl Space selects its item'],
  ['[', 'Collapse the sidebar'],
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
