import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';
import { ago, count, exact } from '../../parts/format';
import { FormField } from '../../parts/FormField';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { invitationRevoke, memberChange, memberInvite, memberRemove, membersQuery, passwordReset } from './queries';

type Member = Schema['MemberAnswer'];
type Role = Schema['Role'];

const roles = [
  ['viewer', 'viewer: sees everything'],
  ['editor', 'editor: creates links'],
  ['owner', 'owner: decides everything'],
] as const;

/** Who belongs to the workspace, what each may do, and how somebody joins. */
export function People({ tabs }: { tabs: ReactNode }) {
  const owner = usePerson().role === 'owner';
  const people = useQuery(membersQuery());
  const [made, setMade] = useState<Made | null>(null);
  const members = people.data?.members;
  return (
    <>
      <Head title="People" state={members && `${count(members.length)} ${members.length === 1 ? 'member' : 'members'}`}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-4xl flex-col gap-6">
          {owner && <Invite onMade={setMade} />}
          {made && <HandOver made={made} />}
          {people.isError && (
            <p role="alert" className="text-error">
              {people.error.message}
            </p>
          )}
          <table aria-label="Members" className="w-full border-separate border-spacing-0">
            <thead className="text-left text-xs text-quiet">
              <tr className="[&>th]:border-b [&>th]:border-line [&>th]:py-2 [&>th]:pr-4 [&>th]:font-medium">
                <th scope="col">Name</th>
                <th scope="col">Mail address</th>
                <th scope="col">Role</th>
                <th scope="col">Last here</th>
                <th scope="col" />
              </tr>
            </thead>
            <tbody>
              {members?.map((member) => (
                <MemberRow key={member.id} member={member} mayChange={owner} onMade={setMade} />
              ))}
            </tbody>
          </table>
          {people.data && people.data.invitations.length > 0 && (
            <section aria-label="Open invitations" className="flex flex-col gap-2">
              <h2 className="font-medium">Open invitations</h2>
              <ul className="flex flex-col">
                {people.data.invitations.map((invitation) => (
                  <Invitation key={invitation.id} invitation={invitation} mayRevoke={owner} />
                ))}
              </ul>
            </section>
          )}
        </div>
      </div>
    </>
  );
}

interface Made {
  mail: string;
  address: string;
  expiresAt: string;
  /** The person gets it by mail too. */
  mailed: boolean;
}

interface MadeProps {
  onMade: (made: Made) => void;
}

function Invite({ onMade }: MadeProps) {
  const [mail, setMail] = useState('');
  const [role, setRole] = useState<Role>('editor');
  const invite = useMutation({
    ...memberInvite(),
    onSuccess: (made) => {
      onMade({ ...made, mail });
      setMail('');
    },
  });
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        invite.mutate({ mail, role });
      }}
    >
      <FormField label="Mail address of a new member">
        <input
          className="input w-72"
          type="email"
          value={mail}
          placeholder="wren@marrowmere.example"
          onChange={(e) => setMail(e.target.value)}
        />
      </FormField>
      <FormField label="Role">
        <Select className="w-60" value={role as string} onChange={(r) => setRole(r as Role)} options={roles} />
      </FormField>
      <button type="submit" className="button-main" disabled={!mail.trim() || invite.isPending}>
        Invite
      </button>
      {invite.isError && (
        <p role="alert" className="w-full text-error">
          {invite.error.message}
        </p>
      )}
    </form>
  );
}

/** A link that is shown once. */
function HandOver({ made }: { made: Made }) {
  return (
    <section className="rounded border border-accent p-4" aria-label="The new link">
      <p className="mb-2">
        {made.mailed ? 'This link is on its way by mail to ' : 'Send this link to '}
        <span className="font-medium">{made.mail}</span>. It works once, until{' '}
        <span title={exact(made.expiresAt)}>{exact(made.expiresAt)}</span>, and is shown only now.
      </p>
      <p className="flex flex-wrap items-center gap-3">
        <span className="font-mono text-xs break-all">{made.address}</span>
        <CopyButton text={made.address} label="Copy link" />
      </p>
    </section>
  );
}

function MemberRow({ member, mayChange, onMade }: { member: Member; mayChange: boolean } & MadeProps) {
  const [sure, setSure] = useState(false);
  const change = useMutation(memberChange(member.id));
  const remove = useMutation(memberRemove(member.id));
  const reset = useMutation({
    ...passwordReset(member.id),
    onSuccess: (made) => onMade({ ...made, mail: member.mail }),
  });
  const problem = change.error ?? remove.error ?? reset.error;
  return (
    <tr className="[&>td]:border-b [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-4">
      <td>
        {member.name}
        {member.own && <span className="caption"> · you</span>}
      </td>
      <td>{member.mail}</td>
      <td>
        {mayChange ? (
          <Select
            className="w-60"
            label={`Role of ${member.name}`}
            value={member.role as string}
            onChange={(role) => change.mutate({ role: role as Role })}
            options={roles}
          />
        ) : (
          roles.find(([role]) => role === member.role)?.[1]
        )}
      </td>
      <td title={member.seenAt ? exact(member.seenAt) : undefined}>{member.seenAt ? ago(member.seenAt) : '–'}</td>
      <td className="text-right">
        {problem && (
          <span role="alert" className="text-error">
            {problem.message}{' '}
          </span>
        )}
        {mayChange &&
          (sure ? (
            <span className="whitespace-nowrap">
              <button type="button" className="button" disabled={remove.isPending} onClick={() => remove.mutate()}>
                Remove; their links stay
              </button>
              <button type="button" className="button-plain" onClick={() => setSure(false)}>
                Cancel
              </button>
            </span>
          ) : (
            <span className="whitespace-nowrap">
              <button
                type="button"
                className="button-plain"
                aria-label={`New password for ${member.name}`}
                disabled={reset.isPending}
                onClick={() => reset.mutate()}
              >
                New password
              </button>
              <button
                type="button"
                className="button-plain"
                aria-label={`Remove ${member.name}`}
                onClick={() => setSure(true)}
              >
                Remove
              </button>
            </span>
          ))}
      </td>
    </tr>
  );
}

function Invitation({ invitation, mayRevoke }: { invitation: Schema['InvitationAnswer']; mayRevoke: boolean }) {
  const revoke = useMutation(invitationRevoke(invitation.id));
  return (
    <li className="flex items-center gap-4 border-b border-line py-1.5">
      <span className="min-w-0 flex-1">
        {invitation.mail}
        <span className="caption">
          {' '}
          · {invitation.isReset ? 'chooses a new password' : `joins as ${invitation.role}`}
        </span>
      </span>
      <span className="text-quiet" title={exact(invitation.madeAt)}>
        by {invitation.madeBy}, {ago(invitation.madeAt)}, until {exact(invitation.expiresAt)}
      </span>
      {mayRevoke && (
        <button
          type="button"
          className="button-plain"
          aria-label={`Revoke the link for ${invitation.mail}`}
          disabled={revoke.isPending}
          onClick={() => revoke.mutate()}
        >
          Revoke
        </button>
      )}
    </li>
  );
}
