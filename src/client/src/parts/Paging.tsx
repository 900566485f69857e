interface PagingProps {
  page: number;
  pages: number;
  onGo: (page: number) => void;
}

/** Leads through the pages of a list; nothing where there is only one. */
export function Paging({ page, pages, onGo }: PagingProps) {
  if (pages < 2) return null;
  return (
    <span className="flex items-center gap-1 tabular-nums">
      <button type="button" className="button h-6 px-2" disabled={page <= 1} onClick={() => onGo(page - 1)}>
        Previous
      </button>
      page {page} of {pages}
      <button type="button" className="button h-6 px-2" disabled={page >= pages} onClick={() => onGo(page + 1)}>
        Next
      </button>
    </span>
  );
}
