import { useQuery } from '@tanstack/react-query';
import { SeverityMark } from '../../parts/SeverityMark';
import { Choose } from './Choose';
import type { ConventionDocument, Severity } from './document';
import { rulesQuery } from './queries';

interface RuleEditorProps {
  document: ConventionDocument;
  mayWrite: boolean;
  onChange: (severities: Record<string, Severity>) => void;
}

const severities: [Severity, string][] = [
  ['info', 'info'],
  ['warning', 'warning'],
  ['error', 'error'],
];

/** Every rule that can speak about a link, with an example, and how grave it is here. */
export function RuleEditor({ document, mayWrite, onChange }: RuleEditorProps) {
  const rules = useQuery(rulesQuery());
  function set(rule: string, severity: Severity, usual: Severity) {
    const { [rule]: _, ...others } = document.severities;
    onChange(severity === usual ? others : { ...others, [rule]: severity });
  }

  return (
    <div className="p-5">
      <p className="mb-3 max-w-2xl text-quiet">
        An error prevents saving, a warning is probably a mistake, an info is good to know. Rules that keep the link
        working can’t be changed.
      </p>
      <table className="w-full table-fixed">
        <thead className="text-left text-xs text-quiet">
          <tr className="[&>th]:pb-1 [&>th]:font-medium">
            <th scope="col" className="w-32">
              Here
            </th>
            <th scope="col">Condition</th>
            <th scope="col">Example</th>
          </tr>
        </thead>
        <tbody>
          {rules.data?.map((rule) => {
            const severity = document.severities[rule.name] ?? rule.severity;
            return (
              <tr key={rule.name} className="[&>td]:border-t [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-3">
                <td className="whitespace-nowrap">
                  <span className="flex items-center gap-2">
                    <SeverityMark severity={severity} />
                    {rule.protects ? (
                      <span className="pl-2">{severity}</span>
                    ) : (
                      <Choose
                        label={`Severity of ${rule.name}`}
                        bare
                        value={severity}
                        options={severities}
                        disabled={!mayWrite}
                        onChange={(next) => set(rule.name, next, rule.severity)}
                      />
                    )}
                  </span>
                </td>
                <td>
                  {rule.about}
                  {severity !== rule.severity && <span className="caption block">default: {rule.severity}</span>}
                </td>
                <td className="font-mono text-xs break-all">{rule.example}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
