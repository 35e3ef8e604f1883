'use client';
import { Button } from '@mantine/core';
import { RichTextEditor } from '@mantine/tiptap';
import { useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import '@mantine/tiptap/styles.css';
import { TextButton } from '../kit/inputs/TextButton';

interface RichTextProps {
  label: string;
  markup: string;
  onSave(markup: string): void;
  onLeave(): void;
}

/** A text with paragraphs, lists, headings, emphasis and links. What it holds is cleaned again when it is saved. */
export function RichText({ label, markup, onSave, onLeave }: RichTextProps) {
  const editor = useEditor({
    immediatelyRender: false,
    extensions: [StarterKit.configure({ link: { openOnClick: false }, codeBlock: false, code: false })],
    content: markup,
    autofocus: 'end',
    editorProps: { attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true' } },
  });
  return (
    <div className="rich-text">
      <RichTextEditor editor={editor}>
        <RichTextEditor.Toolbar>
          <RichTextEditor.ControlsGroup>
            <RichTextEditor.Bold />
            <RichTextEditor.Italic />
            <RichTextEditor.Underline />
            <RichTextEditor.ClearFormatting />
          </RichTextEditor.ControlsGroup>
          <RichTextEditor.ControlsGroup>
            <RichTextEditor.H3 />
            <RichTextEditor.BulletList />
            <RichTextEditor.OrderedList />
          </RichTextEditor.ControlsGroup>
          <RichTextEditor.ControlsGroup>
            <RichTextEditor.Link />
            <RichTextEditor.Unlink />
          </RichTextEditor.ControlsGroup>
          <RichTextEditor.ControlsGroup>
            <RichTextEditor.Undo />
            <RichTextEditor.Redo />
          </RichTextEditor.ControlsGroup>
        </RichTextEditor.Toolbar>
        <RichTextEditor.Content />
      </RichTextEditor>
      <span className="row" style={{ marginTop: 6 }}>
        <Button onClick={() => onSave(editor?.isEmpty ? '' : (editor?.getHTML() ?? markup))}>
          Save text
        </Button>
        <TextButton onClick={onLeave}>Cancel</TextButton>
      </span>
    </div>
  );
}
