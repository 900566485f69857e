import { useCampaigns } from '../../api/known';
import { DateField } from '../../parts/DateField';
import { Picker } from '../../parts/Picker';
import { Select } from '../../parts/Select';
import { dayOf } from '../../parts/days';
import { comparedWith, spans, type Range } from './range';
import { comparedCampaigns, sideBySide } from './compared';
import type { Changes } from './useView';

interface RangePickerProps {
  range: Range;
  span: string | null;
  compare: string;
  today: string;
  set: (changes: Changes) => void;
}

/** Which days the report is about, and which it is compared with. */
export function RangePicker({ range, span, compare, today, set }: RangePickerProps) {
  const campaigns = useCampaigns();
  const side = compare.startsWith(sideBySide);
  const own = compare !== '' && !side && !['before', 'yearBefore'].includes(compare);
  const compared = comparedWith(compare, range);
  const between = (days: Range) => set({ compare: `${days.from},${days.to}` });
  return (
    <>
      <Select
        label="Range"
        value={span ?? ''}
        onChange={(code) =>
          set(code ? { span: code, from: null, to: null } : { span: null, from: range.from, to: range.to })
        }
        options={[...Object.entries(spans), ['', 'Other days …'] as const]}
      />
      {span === null && (
        <>
          <DateField
            required
            className="w-32"
            label="From"
            value={range.from}
            max={range.to}
            onChange={(from) => set({ from, to: range.to, span: null })}
          />
          <DateField
            required
            className="w-32"
            label="To"
            value={range.to}
            min={range.from}
            max={today}
            onChange={(to) => set({ from: range.from, to, span: null })}
          />
        </>
      )}
      <Select
        label="Compare with"
        value={own ? 'own' : side ? 'campaigns' : compare}
        onChange={(value) => {
          if (value === 'campaigns') set({ compare: sideBySide });
          else if (value !== 'own') set({ compare: value || null });
          else between(comparedWith('before', range)!);
        }}
        options={[
          ['', 'No comparison'],
          ['before', 'The span before'],
          ['yearBefore', 'A year before'],
          ['own', 'Other days …'],
          ['campaigns', 'Campaigns side by side'],
        ]}
      />
      {own && compared && (
        <>
          <DateField
            required
            className="w-32"
            label="Compared from"
            value={compared.from}
            max={compared.to}
            onChange={(from) => between({ from, to: compared.to })}
          />
          <DateField
            required
            className="w-32"
            label="Compared to"
            value={compared.to}
            min={compared.from}
            onChange={(to) => between({ from: compared.from, to })}
          />
        </>
      )}
      {side && (
        <Picker
          several
          label="Campaigns"
          empty="choose two to six"
          options={(campaigns.data ?? []).map((c) => ({ value: c.value, label: c.name, detail: c.value }))}
          chosen={comparedCampaigns(compare)}
          onChange={(chosen) => set({ compare: sideBySide + chosen.slice(0, 6).join(',') })}
        />
      )}
      {!own && compared && (
        <span className="sr-only">{`compared with ${dayOf(compared.from)} to ${dayOf(compared.to)}`}</span>
      )}
    </>
  );
}
