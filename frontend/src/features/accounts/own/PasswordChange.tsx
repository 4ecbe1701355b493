import { toast } from 'sonner';
import { z } from 'zod';
import { Form, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { useChangePassword } from './queries';

const schema = z.object({
  current_password: z.string().min(1, 'Your present password'),
  new_password: z.string().min(10, 'At least ten characters'),
});
const NOTHING = { current_password: '', new_password: '' };

export function PasswordChange() {
  const change = useChangePassword();
  const kept = useKeptForm({
    schema,
    values: NOTHING,
    keep: async (read, form) => {
      await change.mutateAsync(read);
      form.setValue('current_password', '');
      form.setValue('new_password', '');
      toast.success('Your password is changed. Everywhere else you are signed out.');
    },
  });
  return (
    <Form kept={kept} label="Password" className="max-w-sm space-y-2">
      <h2 className="font-semibold">Password</h2>
      <FormText
        name="current_password"
        label="Present password"
        type="password"
        autoComplete="current-password"
      />
      <FormText
        name="new_password"
        label="New password"
        hint="At least ten characters, and none of the usual ones."
        type="password"
        autoComplete="new-password"
      />
      <KeepOrLeave words="Change password" />
    </Form>
  );
}
