import type { CampaignAnswer } from '../../api/client';
import { FormDialog } from '../../parts/FormDialog';
import { CampaignForm } from './CampaignForm';

interface NewCampaignProps {
  /** What it is called to begin with. */
  name?: string;
  onMade: (made: CampaignAnswer) => void;
  onClose: () => void;
}

/** Writes a campaign down without leaving the place one is in. */
export const NewCampaign = ({ name, onMade, onClose }: NewCampaignProps) => (
  <FormDialog title="New campaign" onClose={onClose}>
    <CampaignForm name={name} onSaved={onMade} />
  </FormDialog>
);
