import { useMutation } from '@tanstack/react-query';
import type { Schema } from '../../api/client';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { hostApprove } from './queries';

/** Hosts whose links wait for an owner. */
export function WaitingHosts({ hosts }: { hosts: Schema['HostAnswer'][] }) {
  const person = usePerson();
  const approve = useMutation(hostApprove());
  return (
    <>
      {hosts.map((host) => (
        <div key={host.id} className="flex items-center gap-3 border-b border-line px-5 py-2">
          <SeverityMark severity="warning" />
          <span>
            <span className="font-mono">{host.host}</span> waits for approval: {host.askedBy} asked for links to this
            host. Until approved, their short links answer “no such link”.
          </span>
          {person.role === 'owner' && (
            <button
              type="button"
              className="button"
              disabled={approve.isPending}
              onClick={() => approve.mutate(host.id)}
            >
              Approve {host.host}
            </button>
          )}
        </div>
      ))}
    </>
  );
}
