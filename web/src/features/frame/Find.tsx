'use client';

import { useCombobox } from 'downshift';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { FoundFiles } from '../../contract/api.ts';
import { call } from '../api/client.ts';
import { api } from '../../contract/operations/index.ts';

/** A person who goes on typing is not asked for yet, in milliseconds. */
const PAUSE = 150;

const none: FoundFiles = [];

/** Finds files by name in all projects. */
export function Find(): React.ReactNode {
  const router = useRouter();
  const [words, setWords] = useState('');
  const found = useFound(words.trim());
  const { isOpen, getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<FoundFiles[number]>({
    id: 'find-files',
    inputId: 'find',
    items: [...(found ?? none)],
    inputValue: words,
    selectedItem: null,
    itemToString: (file) => file?.name ?? '',
    onInputValueChange: ({ inputValue }) => setWords(inputValue),
    onSelectedItemChange: ({ selectedItem }) => {
      setWords('');
      if (!selectedItem) return;
      router.push(`/files/${selectedItem.id}`);
    },
  });
  const open = isOpen && words.trim() !== '' && found !== undefined;
  return (
    <div className="ov-find" role="search">
      <Form.Control
        size="sm"
        type="search"
        placeholder="Find a file"
        {...getInputProps({ 'aria-label': 'Find a file', autoComplete: 'off' })}
        aria-labelledby={undefined}
      />
      <ul
        className="ov-found"
        hidden={!open}
        {...getMenuProps({ 'aria-label': 'Files found' })}
        aria-labelledby={undefined}
      >
        {open &&
          found.map((file, index) => (
            <li
              key={file.id}
              className={index === highlightedIndex ? 'is-here' : undefined}
              {...getItemProps({ item: file, index })}
            >
              <span className="ov-cut">{file.name}</span>
              <span className="ov-quiet ov-cut">
                {file.project}, v{file.number}
              </span>
            </li>
          ))}
      </ul>
      {open && !found.length && <p className="ov-found is-empty ov-quiet">No file is called that.</p>}
    </div>
  );
}

/** Files whose names hold the words; undefined until they are known. */
function useFound(words: string): FoundFiles | undefined {
  const [found, setFound] = useState<{ words: string; files: FoundFiles }>();
  useEffect(() => {
    if (!words) return undefined;
    let stale = false;
    const timer = setTimeout(() => {
      call(api.projects.find, { query: { q: words } }).then(
        (files) => {
          if (!stale) setFound({ words, files });
        },
        () => undefined,
      );
    }, PAUSE);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [words]);
  // What was found for fewer letters stays until more is known.
  return words ? found?.files : undefined;
}
