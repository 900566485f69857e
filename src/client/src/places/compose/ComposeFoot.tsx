import { count } from '../../parts/format';

interface ComposeFootProps {
  ready: number;
  /** How many of those that are ready exist already with exactly the same address. */
  existing: number;
  stopped: number;
  saved: number;
  removed: number;
  ticked: number;
  message: string;
  progress: { done: number; total: number } | null;
  maySave: boolean;
  canSave: boolean;
  onSave: () => void;
  onSaveAgain: () => void;
  onPutBack: () => void;
  onUntick: () => void;
  onCopyLines: () => void;
  onCopyTable: () => void;
}

/** The foot of Compose: what is ready, what was done, and saving. */
export function ComposeFoot(props: ComposeFootProps) {
  const { ready, existing, stopped, saved, removed, ticked, message, progress, maySave, canSave } = props;
  return (
    <footer className="flex h-14 shrink-0 items-center gap-4 border-t border-line px-5">
      <p role="status" className="min-w-0 flex-1 truncate">
        {progress && progress.total > 1
          ? `Saving ${count(progress.done)} of ${count(progress.total)} …`
          : `${count(ready)} ready · ${count(stopped)} stopped${saved ? ` · ${count(saved)} saved` : ''}`}
        {message && <span className="ml-4 text-quiet">{message}</span>}
      </p>
      {removed > 0 && (
        <button type="button" className="button-plain" onClick={props.onPutBack}>
          Put {count(removed)} back
        </button>
      )}
      {ticked > 0 && (
        <>
          <button type="button" className="button" onClick={props.onCopyLines}>
            Copy {count(ticked)} as lines
          </button>
          <button type="button" className="button" onClick={props.onCopyTable}>
            As a table <kbd className="kbd">t</kbd>
          </button>
          <button type="button" className="button-plain" onClick={props.onUntick}>
            None
          </button>
        </>
      )}
      {maySave ? (
        <>
          {ticked === 0 && (
            <span className="caption hidden lg:inline">
              <kbd className="kbd">Ctrl Enter</kbd> saves and copies
            </span>
          )}
          {existing > 0 && (
            <button type="button" className="button" disabled={!canSave} onClick={props.onSaveAgain}>
              Save {ready === 1 ? 'it' : `all ${count(ready)}`} again
            </button>
          )}
          <button type="button" className="button-main" disabled={!canSave} onClick={props.onSave}>
            {existing === 0
              ? `Save ${count(ready)}`
              : `Use ${existing === 1 ? 'the existing link' : `${count(existing)} existing links`}${ready > existing ? `, save ${count(ready - existing)}` : ''}`}
          </button>
        </>
      ) : (
        <span className="caption">Your role can view and copy, but not save.</span>
      )}
    </footer>
  );
}
