/** What to do next, while nothing is chosen. */
export function EmptyCompose() {
  return (
    <div className="flex flex-1 items-center justify-center bg-sheet p-8">
      <div className="max-w-md">
        <h2 className="mb-2 font-semibold">No links yet</h2>
        <ol className="list-decimal space-y-1 pl-5 text-quiet">
          <li>Choose the placements people will come from: one or many.</li>
          <li>Choose the landing page by its title, or paste its address.</li>
          <li>Choose the campaign. The tags follow from the convention.</li>
        </ol>
        <p className="mt-3 text-quiet">
          Or paste links that already have tags, one or a whole column: they are read, checked and repaired.
        </p>
      </div>
    </div>
  );
}
