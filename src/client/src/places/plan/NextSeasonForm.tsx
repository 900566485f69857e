import { useMutation } from '@tanstack/react-query';
import { addYears, format, parseISO } from 'date-fns';
import { useState } from 'react';
import { type CampaignAnswer } from '../../api/client';
import { count } from '../../parts/format';
import { Inspector } from '../../parts/Inspector';
import { FormField } from '../../parts/FormField';
import { DateField } from '../../parts/DateField';
import { nextSeasonMake } from './queries';

interface NextSeasonFormProps {
  campaign: CampaignAnswer;
  onMade: (made: CampaignAnswer) => void;
  onClose: () => void;
}

/** Takes a campaign up again: days shifted, links planned anew, nothing of the old one changed. */
export function NextSeasonForm({ campaign, onMade, onClose }: NextSeasonFormProps) {
  const [name, setName] = useState('');
  const [starts, setStarts] = useState(
    campaign.startsOn ? format(addYears(parseISO(campaign.startsOn), 1), 'yyyy-MM-dd') : '',
  );
  const make = useMutation({ ...nextSeasonMake(campaign.id), onSuccess: onMade });
  const links = Math.max(campaign.planned, campaign.links);
  return (
    <Inspector title="Plan the next season" onClose={onClose}>
      <p className="text-quiet">
        A new campaign with the same attributes, and its {count(links)} links planned again. All dates move with the
        first day. “{campaign.name}” and its links stay as they are.
      </p>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          make.mutate({ name: name || null, startsOn: starts || null });
        }}
      >
        <FormField label="Name">
          <input
            className="input"
            placeholder={`the same, with the new year`}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </FormField>
        {campaign.startsOn && (
          <FormField label="First day">
            <DateField value={starts} onChange={setStarts} />
          </FormField>
        )}
        {make.isError && (
          <p role="alert" className="text-error">
            {make.error.message}
          </p>
        )}
        <button type="submit" className="button-main self-start" disabled={make.isPending}>
          Create campaign
        </button>
      </form>
    </Inspector>
  );
}
