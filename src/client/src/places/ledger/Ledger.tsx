import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { CodesOfMany } from './codes/CodesOfMany';
import { LinkPage } from './LinkPage';
import { SlugImport } from './SlugImport';
import { LinkTable } from './LinkTable';

/** Every link ever made; one link's own page; and the codes of many. */
export function Ledger() {
  const [search, setSearch] = useSearchParams();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const open = search.get('open');
  const batch = search.get('codesOf');
  function leave(key: string) {
    const next = new URLSearchParams(search);
    for (const name of [key, 'part']) next.delete(name);
    setSearch(next);
  }
  if (open) return <LinkPage key={open} id={open} onLeave={() => leave('open')} />;
  if (search.get('slugs')) return <SlugImport onLeave={() => leave('slugs')} />;
  if (batch) return <CodesOfMany batch={batch} onLeave={() => window.history.back()} />;
  if (search.get('codes') && chosen.size > 0) return <CodesOfMany links={[...chosen]} onLeave={() => leave('codes')} />;
  return <LinkTable chosen={chosen} onChoose={setChosen} />;
}
