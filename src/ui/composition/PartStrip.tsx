'use client';
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { arrayMove, horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Menu, Popover, Select } from '@mantine/core';
import { type KeyboardEvent, useId, useState } from 'react';
import type { Part } from '@/core/compose/composition';
import { stepWords } from '@/core/compose/steps';
import { AutosaveTextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { StepsEditor } from './StepsEditor';
import { useSample } from './useSample';

export interface AttributeOption {
  readonly code: string;
  readonly label: string;
}

interface PartStripProps {
  parts: readonly Part[];
  attributes: readonly AttributeOption[];
  onChange(parts: Part[]): void;
  /** Attributes that the sample at hand lacks: shown struck through, with the glue they take along. */
  absent?: ReadonlySet<string>;
  addLabel?: string;
}

const spaces = (glue: string): string => glue.replace(/ /g, '␣');

/** Parts as chips in a row with the glue between them; drag or Alt and an arrow key moves one, Delete takes it out. */
export function PartStrip({ parts, attributes, onChange, absent, addLabel = 'Add part' }: PartStripProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const base = useId();
  const ids = parts.map((_, i) => `${base}${i}`);
  const put = (at: number, part: Part) => onChange(parts.map((old, i) => (i === at ? part : old)));
  const labelOf = (code: string) => attributes.find((one) => one.code === code)?.label ?? code;
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      onChange(arrayMove([...parts], ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <div className="strip">
      <DndContext id={base} sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
          {parts.map((part, at) => (
            <span key={ids[at]} style={{ display: 'inline-flex', alignItems: 'center' }}>
              {at > 0 && (
                <AutosaveTextField
                  name={`Between part ${at} and ${at + 1}`}
                  title="Text before the next part; left away when the part is empty"
                  className="glue"
                  mono
                  exact
                  value={spaces(part.glue)}
                  onSave={(text) => put(at, { ...part, glue: text.replace(/␣/g, ' ') })}
                />
              )}
              <PartChip
                id={ids[at] ?? ''}
                part={part}
                labelOf={labelOf}
                attributes={attributes}
                absent={'attribute' in part && (absent?.has(part.attribute) ?? false)}
                onChange={(changed) => put(at, changed)}
                onRemove={() => onChange(parts.filter((_, i) => i !== at))}
                onMove={(by) =>
                  at + by >= 0 && at + by < parts.length && onChange(arrayMove([...parts], at, at + by))
                }
                last={parts.length === 1}
              />
            </span>
          ))}
        </SortableContext>
      </DndContext>
      <Menu position="bottom-start">
        <Menu.Target>
          <TextButton style={{ marginLeft: 6 }}>{addLabel}</TextButton>
        </Menu.Target>
        <Menu.Dropdown mah={320} style={{ overflow: 'auto' }}>
          <Menu.Item onClick={() => onChange([...parts, { text: '', glue: ' ' }])}>Fixed text</Menu.Item>
          <Menu.Divider />
          {attributes.map(({ code, label }) => (
            <Menu.Item
              key={code}
              onClick={() => onChange([...parts, { attribute: code, glue: ' ', steps: [] }])}
            >
              {label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </div>
  );
}

interface PartChipProps {
  id: string;
  part: Part;
  attributes: readonly AttributeOption[];
  absent: boolean;
  last: boolean;
  labelOf(code: string): string;
  onChange(part: Part): void;
  onRemove(): void;
  onMove(by: -1 | 1): void;
}

function PartChip({
  id,
  part,
  attributes,
  absent,
  last,
  labelOf,
  onChange,
  onRemove,
  onMove,
}: PartChipProps) {
  const sample = useSample();
  const [opened, setOpened] = useState(false);
  const { attributes: drag, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      event.preventDefault();
      event.stopPropagation();
      onMove(event.key === 'ArrowLeft' ? -1 : 1);
    } else if (event.key === 'Delete' && !last) onRemove();
  };
  const words = 'attribute' in part ? labelOf(part.attribute) : part.text || 'no text yet';
  return (
    <Popover opened={opened} onChange={setOpened} position="bottom-start" trapFocus>
      <Popover.Target>
        <button
          type="button"
          ref={setNodeRef}
          style={{ transform: CSS.Transform.toString(transform), transition }}
          {...drag}
          {...listeners}
          className={`chip ${'attribute' in part ? 'attribute' : 'text'} ${absent ? 'absent' : ''} ${isDragging ? 'dragging' : ''}`}
          aria-label={`Part ${words}${absent ? ', empty on the sample' : ''}`}
          onClick={() => setOpened((open) => !open)}
          onKeyDown={onKeyDown}
        >
          {words}
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <div className="part-form">
          {'attribute' in part ? (
            <>
              <Select
                label="Attribute"
                searchable
                data={attributes.map(({ code, label }) => ({ value: code, label }))}
                value={part.attribute}
                comboboxProps={{ withinPortal: false }}
                onChange={(code) => code && onChange({ ...part, attribute: code })}
              />
              <StepsEditor
                steps={part.steps}
                input={sample?.attribute(part.attribute)}
                onChange={(changed) => onChange({ ...part, steps: changed })}
              />
            </>
          ) : (
            <AutosaveTextField
              name="Fixed text"
              shown="above"
              mono
              exact
              value={part.text}
              onSave={(text) => onChange({ ...part, text })}
            />
          )}
          {!last && <TextButton onClick={onRemove}>Remove</TextButton>}
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}

/** The steps of a part as dashed chips, read only. */
export function StepChips({ steps }: { steps: readonly Parameters<typeof stepWords>[0][] }) {
  return (
    <>
      {steps.map((step, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps are plain data; their place is their identity
        <span className="chip step" key={i}>
          {stepWords(step)}
        </span>
      ))}
    </>
  );
}
