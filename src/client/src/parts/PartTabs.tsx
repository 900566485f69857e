interface PartTabsProps<T extends string> {
  label: string;
  parts: readonly (readonly [T, string])[];
  at: T;
  onGo: (part: T) => void;
}

/** The parts of a place, one of them shown. */
export function PartTabs<T extends string>({ label, parts, at, onGo }: PartTabsProps<T>) {
  return (
    <nav
      aria-label={label}
      className="flex h-8 max-w-full items-stretch overflow-x-auto rounded border border-line-strong bg-sheet whitespace-nowrap"
    >
      {parts.map(([part, says]) => (
        <button
          key={part}
          type="button"
          aria-current={at === part ? 'page' : undefined}
          className="border-r border-line px-3 max-sm:px-2 last:border-r-0 hover:text-accent aria-[current=page]:bg-accent-wash aria-[current=page]:font-medium"
          onClick={() => onGo(part)}
        >
          {says}
        </button>
      ))}
    </nav>
  );
}
