import { expect, test, vi } from 'vitest';
import { render, screen, textOf, userEvent } from '../../testing/component';
import { json, server } from '../../testing/server';
import SecondFactor from './SecondFactor.svelte';
import { downloads } from '../../testing/device';

const user = userEvent.setup();
const press = async (name: string | RegExp) => user.click(await screen.findByRole('button', { name }));
function shown(door: object = {}) {
  const changed = vi.fn(() => Promise.resolve());
  render(SecondFactor, { door: { second_factor: false, codes_left: 0, ...door } as never, changed });
  return changed;
}

test('it is taken up with the password and a code, and the recovery codes are shown once and can be kept', async () => {
  const changed = shown();
  server.on('POST /api/account/security/second-factor', () => ({
    secret: 'ABCDEFGH',
    picture: '<svg xmlns="x"/>',
  }));
  server.on('POST /api/account/security/second-factor/confirm', () => ({ codes: ['one-two', 'three-four'] }));
  await press('Set up…');
  await user.type(screen.getByLabelText('Your password'), 'dunlin over wet sand');
  await press('Continue');
  expect(textOf(await screen.findByTestId('secret'))).toBe('ABCD EFGH');
  expect(screen.getByAltText<HTMLImageElement>(/The secret/).src).toMatch(/^data:image\/svg\+xml,/);
  await user.type(screen.getByLabelText(/six digits/), '123456');
  await press('Turn on');
  await screen.findByTestId('recovery-codes');
  expect(screen.getAllByRole('listitem').map(textOf)).toEqual(['one-two', 'three-four']);
  await press('Save as a text file');
  expect(downloads).toMatchObject([
    { content: 'one-two\nthree-four\n', name: 'sand-pocket-recovery-codes.txt' },
  ]);
  await press('I have saved them');
  expect(changed).toHaveBeenCalledOnce();
  expect(screen.queryByTestId('recovery-codes')).toBeNull();
});

test('a wrong password and a wrong code are said beside their field, and nothing is taken up', async () => {
  const changed = shown();
  const wrong = (field: string, reason: string) => () =>
    json(422, { message: 'Not taken up.', faults: [{ field, reason }] });
  server.on(
    'POST /api/account/security/second-factor',
    wrong('password', 'not the password you sign in with'),
  );
  await press('Set up…');
  await user.type(screen.getByLabelText(/^Your password/), 'guess');
  await press('Continue');
  expect(await screen.findByText('not the password you sign in with')).toBeTruthy();
  server.on('POST /api/account/security/second-factor', () => ({ secret: 'ABCD', picture: '<svg/>' }));
  server.on('POST /api/account/security/second-factor/confirm', wrong('code', 'the six figures of now'));
  await press('Continue');
  await user.type(await screen.findByLabelText(/six digits/), '000000');
  await press('Turn on');
  expect(await screen.findByText('the six figures of now')).toBeTruthy();
  await press('Cancel');
  expect([changed.mock.calls, screen.queryByTestId('secret')]).toEqual([[], null]);
});

test('it is taken off with the password, which is not kept on the page', async () => {
  const changed = shown({ second_factor: true, codes_left: 1 });
  expect(screen.getByText(/1 recovery code is left/)).toBeTruthy();
  server.on('POST /api/account/security/second-factor/end', () => ({}));
  await press('Turn off…');
  await user.type(screen.getByLabelText('Your password'), 'dunlin over wet sand');
  await press('Turn off');
  await vi.waitFor(() => expect(changed).toHaveBeenCalledOnce());
  await press('Turn off…');
  expect(screen.getByLabelText<HTMLInputElement>('Your password').value).toBe('');
});

test('without network nothing is taken up, and that is said', async () => {
  shown();
  server.offline = true;
  await press('Set up…');
  await user.type(screen.getByLabelText('Your password'), 'x');
  await press('Continue');
  expect(textOf(await screen.findByRole('alert'))).toContain('nothing was changed');
});
