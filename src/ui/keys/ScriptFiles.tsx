'use client';

import { useRef, useState } from 'react';
import { keysInUse } from '@/store/keys';
import {
  clashesOf,
  type FiledScript,
  type OnClash,
  readScriptFile,
  scriptFile,
  takenIn,
} from '@/store/script-file';
import { download } from '../download';
import { chordName, faultsOf } from '../hands/chords';
import { OneOf } from '../primitives/OneOf';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';

/** Scripts out to a file and back; what clashes is asked about, what does not fit is said and changes nothing. */
export function ScriptFiles() {
  const [open, setOpen] = useState(false);
  return (
    <Pop title="Scripts to a file, and back" label="File" className="btn" open={open} onOpenChange={setOpen}>
      {open && <Files done={() => setOpen(false)} />}
    </Pop>
  );
}

function Files({ done }: { done(): void }) {
  const [wrong, setWrong] = useState('');
  const [filed, setFiled] = useState<FiledScript[] | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    setWrong('');
    setFiled(null);
    if (file.size > 10_000_000)
      return setWrong(`“${file.name}” has ${Math.round(file.size / 1e6)} MB; scripts fit into 10.`);
    const found = readScriptFile(await file.text());
    // A key that cannot be had is left out: a file must not bring one that closes the tab.
    if (found.ok)
      setFiled(
        found.scripts.map((s) => (faultsOf(s.key, null).some((f) => f.never) ? { ...s, key: '' } : s)),
      );
    else setWrong(`“${file.name}”: ${found.why}`);
  };
  const out = () => {
    const s = useSettings.getState();
    download('scripts.json', 'application/json', scriptFile(s.scripts, keysInUse(s).keys));
    done();
  };
  return (
    <div className="w-[420px] p-3 text-[13px]">
      <div className="flex gap-2">
        <button type="button" className="btn" onClick={out}>
          Export all scripts
        </button>
        <button type="button" className="btn" onClick={() => field.current?.click()}>
          Import from a file …
        </button>
        <input
          ref={field}
          type="file"
          accept=".json,application/json"
          className="sr-only"
          aria-label="Choose a file of scripts"
          onChange={(e) => {
            void read(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </div>
      {wrong && (
        <p role="alert" className="mt-2">
          ⚠ {wrong}
        </p>
      )}
      {filed && <Taking filed={filed} done={done} />}
    </div>
  );
}

function Taking({ filed, done }: { filed: FiledScript[]; done(): void }) {
  const scripts = useSettings((s) => s.scripts);
  const keys = useSettings((s) => keysInUse(s).keys);
  const clashes = clashesOf(filed, scripts, keys);
  const [names, setNames] = useState<OnClash>('both');
  const [take, setTake] = useState(false);
  return (
    <div className="mt-2 grid gap-2" role="status">
      <p>
        {filed.length} {filed.length === 1 ? 'script' : 'scripts'} in the file.
      </p>
      {clashes.names.length > 0 && (
        <fieldset>
          <legend>
            {clashes.names.length === 1 ? '“' : `${clashes.names.length} names are there already: “`}
            {clashes.names.slice(0, 3).join('”, “')}
            {clashes.names.length > 3 ? '” …' : '”'}
            {clashes.names.length === 1 && ' is there already.'}
          </legend>
          <OneOf<OnClash>
            label="Scripts of the same name"
            value={names}
            options={[
              ['both', 'keep both'],
              ['replace', 'take the file’s'],
              ['skip', 'keep mine'],
            ]}
            change={setNames}
          />
        </fieldset>
      )}
      {clashes.keys.length > 0 && (
        <fieldset>
          <legend>
            {clashes.keys
              .slice(0, 3)
              .map((k) => `${chordName(k.chord)} is “${k.now}” now, “${k.wants}” in the file`)
              .join('; ')}
            {clashes.keys.length > 3 && ` and ${clashes.keys.length - 3} more`}.
          </legend>
          <OneOf<'mine' | 'file'>
            label="Keys that are taken"
            value={take ? 'file' : 'mine'}
            options={[
              ['mine', 'my keys stay'],
              ['file', 'the file’s keys'],
            ]}
            change={(k) => setTake(k === 'file')}
          />
        </fieldset>
      )}
      <span className="flex gap-2">
        <button
          type="button"
          className="btn text-focus"
          onClick={() => {
            const s = useSettings.getState();
            s.set(takenIn(s, filed, names, take, () => crypto.randomUUID()));
            done();
          }}
        >
          Take them
        </button>
        <button type="button" className="btn" onClick={done}>
          Take nothing
        </button>
      </span>
    </div>
  );
}
