'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { setRules } from '@/contract/people';
import type { StudioRules } from '@/contract/people';
import { ROLES } from '@/contract/route';
import type { Role } from '@/contract/route';
import { NAME_LIMITS, PLAIN_CHOICES, nameFault, namingRule } from '@/core/edit/naming-rule';
import type { NamingChoices } from '@/core/edit/naming-rule';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD, Field } from '@/ui/Field';
import { NumberField } from '@/ui/NumberField';
import { Tick } from '@/ui/Tick';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly rules: StudioRules;
  readonly onChanged: () => void;
}

/** How names are to be, tried at once, and who may publish where. */
export function RulesForm({ rules: given, onChanged }: Props) {
  const [rules, change] = useState(given);
  const { mutate, isPending } = useChange(setRules);
  const { naming } = rules;
  const save = (): void => {
    const kept = (): void => {
      toast('The rules hold from now on');
      onChanged();
    };
    mutate({ body: rules }, { onSuccess: kept, onError: tellProblem });
  };
  return (
    <section aria-label="Rules" className="flex flex-col gap-2 text-[12px]" data-testid="rules">
      <h2 className="text-[14px] font-semibold">Rules</h2>
      <Tick
        title="Names on shared racks keep a rule"
        help="Else names are only advised upon"
        isOn={naming !== null}
        onChange={(isOn) => {
          change({ ...rules, naming: isOn ? PLAIN_CHOICES : null });
        }}
      />
      {naming ? (
        <NamingFields
          naming={naming}
          onChange={(next) => {
            change({ ...rules, naming: next });
          }}
        />
      ) : null}
      <Publishers
        title="May publish on the studio rack"
        roles={rules.studioRack}
        onChange={(studioRack) => {
          change({ ...rules, studioRack });
        }}
      />
      <Publishers
        title="May publish on the racks of their projects"
        roles={rules.projectRacks}
        onChange={(projectRacks) => {
          change({ ...rules, projectRacks });
        }}
      />
      <Button look="strong" disabled={isPending} className="self-start" onClick={save}>
        Set the rules
      </Button>
    </section>
  );
}

interface NamingProps {
  readonly naming: NamingChoices;
  readonly onChange: (naming: NamingChoices) => void;
}
const TICKS = {
  capital: 'A capital first',
  spaces: 'Spaces',
  underscores: 'Underscores',
  digits: 'Digits',
} as const satisfies Partial<Record<keyof NamingChoices, string>>;
const EXAMPLES = ['Edge wear', 'edge_wear', 'Rust 2', 'SALT'];

function NamingFields({ naming, onChange }: NamingProps) {
  return (
    <div className="flex flex-col gap-2 border-l border-line pl-3">
      <span className="flex flex-wrap gap-x-3">
        {(Object.keys(TICKS) as (keyof typeof TICKS)[]).map((choice) => (
          <Tick
            key={choice}
            title={TICKS[choice]}
            isOn={naming[choice]}
            onChange={(isOn) => {
              onChange({ ...naming, [choice]: isOn });
            }}
          />
        ))}
      </span>
      <span className="flex items-end gap-3">
        <Field label="In front of every name" fault={undefined} className="flex-1">
          <input
            className={FIELD}
            maxLength={20}
            value={naming.prefix}
            onChange={(event) => {
              onChange({ ...naming, prefix: event.target.value });
            }}
          />
        </Field>
        <span className="flex items-center gap-1.5 py-1">
          Characters at most
          <NumberField
            isWhole
            label="Characters at most"
            low={NAME_LIMITS[0]}
            high={NAME_LIMITS[1]}
            step={1}
            value={naming.longest}
            onCommit={(longest) => {
              onChange({ ...naming, longest });
            }}
          />
        </span>
      </span>
      <NamesTried naming={naming} />
    </div>
  );
}

/** Names held against the rule as it would be. */
function NamesTried({ naming }: Pick<NamingProps, 'naming'>) {
  const [tried, setTried] = useState('');
  const rule = namingRule(naming);
  return (
    <>
      <Field label="Try a name" fault={undefined}>
        <input
          className={FIELD}
          value={tried}
          onChange={(event) => {
            setTried(event.target.value);
          }}
        />
      </Field>
      <ul aria-label="Names tried" data-testid="names-tried">
        {[...(tried ? [tried] : []), ...EXAMPLES].map((name) => {
          const fault = nameFault(name, rule);
          return (
            <li key={name} className={fault ? 'text-madder' : ''}>
              {fault ? '✕' : '✓'} {name} {fault ? <span>{fault}</span> : null}
            </li>
          );
        })}
      </ul>
    </>
  );
}

interface PublishersProps {
  readonly title: string;
  readonly roles: readonly Role[];
  readonly onChange: (roles: readonly Role[]) => void;
}

function Publishers({ title, roles, onChange }: PublishersProps) {
  return (
    <fieldset>
      <legend>{title}</legend>
      <span className="flex gap-3">
        {ROLES.map((role) => (
          <Tick
            key={role}
            title={`${role}s`}
            isOn={roles.includes(role)}
            onChange={(isOn) => {
              onChange(ROLES.filter((each) => (each === role ? isOn : roles.includes(each))));
            }}
          />
        ))}
      </span>
    </fieldset>
  );
}
