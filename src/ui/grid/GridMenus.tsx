'use client';
import { Button, Menu } from '@mantine/core';
import { IconColumns3, IconDownload, IconPin, IconTable } from '@tabler/icons-react';
import { useState } from 'react';
import { deleteView, storeView } from '@/actions/catalog/items';
import type { Attribute } from '@/core/catalog/attributes';
import { itemColumn, itemColumns } from '@/core/catalog/itemColumns';
import type { SavedView } from '@/server/items/savedViews';
import type { CatalogActs } from '../kit/hooks/useCatalog';
import { TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';

interface ColumnsMenuProps {
  attributes: readonly Attribute[];
  shown: readonly string[];
  pinned: readonly string[];
  onShow(codes: string[]): void;
  onPin(codes: string[]): void;
}

const toggled = (list: readonly string[], code: string): string[] =>
  list.includes(code) ? list.filter((one) => one !== code) : [...list, code];

/** Which columns are shown, and which of them stay at the left edge. */
export function ColumnsMenu({ attributes, shown, pinned, onShow, onPin }: ColumnsMenuProps) {
  return (
    <Menu closeOnItemClick={false} position="bottom-end">
      <Menu.Target>
        <button type="button" className="link row">
          <IconColumns3 size={16} /> Columns
        </button>
      </Menu.Target>
      <Menu.Dropdown mah={440} style={{ overflow: 'auto' }}>
        <Menu.Label>Pinned at the left</Menu.Label>
        {shown.map((code) => (
          <Menu.Item key={`pin${code}`} onClick={() => onPin(toggled(pinned, code))}>
            <span className="row">
              <IconPin size={13} style={{ visibility: pinned.includes(code) ? 'visible' : 'hidden' }} />
              {itemColumn(code)?.label ?? attributes.find((one) => one.code === code)?.label ?? code}
            </span>
          </Menu.Item>
        ))}
        <Menu.Label>Shown</Menu.Label>
        {[...Object.entries(itemColumns).map(([code, { label }]) => ({ code, label })), ...attributes]
          .filter(({ code }) => code !== 'sku')
          .map(({ code, label }) => (
            <Menu.Item key={code} onClick={() => onShow(toggled(shown, code))}>
              {shown.includes(code) ? '✓ ' : '\u2003'}
              {label}
            </Menu.Item>
          ))}
      </Menu.Dropdown>
    </Menu>
  );
}

interface ViewsMenuProps {
  views: readonly SavedView[];
  query: string;
  acts: CatalogActs;
}

/** Saved views: what the grid showed, under a name. */
export function ViewsMenu({ views, query, acts }: ViewsMenuProps) {
  const [name, setName] = useState('');
  return (
    <Menu position="bottom-end" closeOnItemClick={false}>
      <Menu.Target>
        <button type="button" className="link row">
          <IconTable size={16} /> Views
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item component={Link} href="/items">
          All items
        </Menu.Item>
        {views.map((view) => (
          <div key={view.id} className="row" style={{ justifyContent: 'space-between' }}>
            <Menu.Item component={Link} href={`/items?${view.query}`}>
              {view.name}
            </Menu.Item>
            <TextButton small onClick={() => acts.run((press) => deleteView(view.id, press))}>
              Delete
            </TextButton>
          </div>
        ))}
        <Menu.Divider />
        <div className="row" style={{ padding: '4px 8px' }}>
          <TextField
            name="Name of this view"
            placeholder="Name of this view"
            value={name}
            onChange={setName}
            quiet
          />
          <Button
            disabled={name.trim() === '' || acts.busy}
            onClick={() =>
              acts.run(
                (press) => storeView(name, query, press),
                () => setName(''),
              )
            }
          >
            Save view
          </Button>
        </div>
      </Menu.Dropdown>
    </Menu>
  );
}

/** What is seen, all of it, as a file. */
export function ExportMenu({ base }: { base: string }) {
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <button type="button" className="link row">
          <IconDownload size={16} /> Export
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item component="a" href={`/api/items/export?${base}&format=csv`} download>
          As CSV
        </Menu.Item>
        <Menu.Item component="a" href={`/api/items/export?${base}&format=xlsx`} download>
          As a workbook (XLSX)
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
