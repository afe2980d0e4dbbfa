import { Modal } from '@mantine/core'

const keys: readonly (readonly [string, string])[] = [
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo: text and drawing have one history'],
  ['Plus, minus, 0', 'zoom, and show all of it (on the sheet)'],
  ['Arrow keys', 'move what is selected by a step of the grid; while trying, walk'],
  ['Ctrl D, Delete', 'duplicate or delete what is selected'],
  ['Alt while dragging', 'leave the grid'],
  ['Space or E', 'while trying: press, and keep pressed; 1 to 9 choose an option'],
  ['P', 'while trying: pause and go on'],
  ['Escape', 'select nothing; stop trying'],
  ['Ctrl Space', 'in the text: what can be written here'],
]

/** What one can do, and what next. */
export function Help({ opened, onClose }: { readonly opened: boolean; readonly onClose: () => void }) {
  return (
    <Modal
      opened={opened}
      onClose={onClose}
      size="lg"
      title="How this desk works"
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <ol className="help">
        <li>Drag files or a folder in, or take a sample. Everything stays in this browser, and survives a reload.</li>
        <li>
          The check runs by itself after every change. Choose a finding: the plan and the text show what it is about.
        </li>
        <li>Play its steps, and watch it go wrong. Fix it with a click, undo that with another.</li>
        <li>Try the level yourself, go back to any moment, and keep what you did as a walkthrough.</li>
        <li>See under Changes what came and went; save the files, or hand over a report.</li>
      </ol>
      <table className="keys">
        <tbody>
          {keys.map(([key, does]) => (
            <tr key={key}>
              <th scope="row">
                <kbd>{key}</kbd>
              </th>
              <td>{does}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  )
}
