import { toast } from 'sonner';
import { z } from 'zod';
import { Form, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { useSetAccount } from '../queries';
import { AccountFields, accountFields, sent } from './fields';

const schema = z.object({ email: z.email('An e-mail address, like ines@example.org'), ...accountFields });

interface Props {
  onInvited: (id: number) => void;
  onLeave: () => void;
}

/** A new account: its owner gets a letter with a link, and chooses a password. */
export function InviteForm({ onInvited, onLeave }: Props) {
  const { invite } = useSetAccount();
  const kept = useKeptForm({
    schema,
    values: { email: '', name: '', role: '', technician_id: 0 },
    keep: async (read) => {
      const row = await invite.mutateAsync(sent(read));
      toast.success(`A letter to ${row.email} is on its way`);
      onInvited(row.id);
    },
  });
  return (
    <Form kept={kept} label="Invite somebody" className="max-w-md space-y-2">
      <h2 className="font-semibold">Invite somebody</h2>
      <FormText name="email" label="E-mail" type="email" maxLength={254} autoFocus />
      <AccountFields />
      <KeepOrLeave words="Send the invitation" onLeave={onLeave} />
    </Form>
  );
}
