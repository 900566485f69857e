import { Head } from '../../parts/Head';

/** What stands where something can't be had, with the way back. */
export function NotThere({ error, back, onBack }: { error: Error; back: string; onBack: () => void }) {
  return (
    <>
      <Head title="Batches" />
      <p className="p-8">
        {error.message}{' '}
        <button type="button" className="button-plain" onClick={onBack}>
          {back}
        </button>
      </p>
    </>
  );
}
