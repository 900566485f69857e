import { X } from 'lucide-react';
import { IconButton } from './ChannelEditor';
import { Choose } from './Choose';
import type { Channel, Field, Presence } from './document';

interface PresenceByChannelProps {
  field: Field;
  channels: Channel[];
  mayWrite: boolean;
  onChange: (presenceIn: Record<string, Presence>) => void;
}

export const presences: [Presence, string][] = [
  ['required', 'every link needs one'],
  ['offered', 'offered'],
  ['hidden', 'hidden'],
];

/** Where a channel asks for more or less of a field than links do in general. */
export function PresenceByChannel({ field, channels, mayWrite, onChange }: PresenceByChannelProps) {
  const free = channels.filter((c) => !(c.name in field.presenceIn));
  return (
    <section aria-label="Required by channel" className="flex flex-col items-start gap-1.5">
      {Object.entries(field.presenceIn).map(([channel, presence]) => (
        <span key={channel} className="flex items-center gap-2">
          <span className="w-44 truncate">In {channel}</span>
          <Choose
            label={`Required in ${channel}`}
            bare
            value={presence}
            options={presences}
            disabled={!mayWrite}
            onChange={(next) => onChange({ ...field.presenceIn, [channel]: next })}
          />
          {mayWrite && (
            <IconButton
              label={`Remove exception for ${channel}`}
              onClick={() => {
                const { [channel]: _, ...others } = field.presenceIn;
                onChange(others);
              }}
            >
              <X size={14} strokeWidth={1.5} />
            </IconButton>
          )}
        </span>
      ))}
      {mayWrite && free.length > 0 && (
        <Choose
          label="Exception for a channel"
          bare
          value=""
          options={[['', 'Add exception for a channel …'], ...free.map((c) => [c.name, c.name] as const)]}
          onChange={(channel) => channel && onChange({ ...field.presenceIn, [channel]: 'required' })}
        />
      )}
    </section>
  );
}
