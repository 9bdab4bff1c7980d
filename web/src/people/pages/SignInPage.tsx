import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useQuiet } from '../../update.js';
import { SignInForm } from '../parts/SignInForm.js';

/** Sign-in: the badge is scanned or typed, the PIN is typed. */
export function SignInPage() {
  useTitle('Sign in');
  useQuiet();
  return (
    <main style={{ maxWidth: 380, margin: '0 auto', padding: '14vh 24px 0' }}>
      <img src="/mark.svg" alt="" width={64} height={64} />
      <h1 style={{ margin: '16px 0 4px' }}>Auk</h1>
      <p className={textCss.quiet} style={{ marginBottom: 24 }}>
        Scan your badge, or type its code; then your PIN.
      </p>
      <SignInForm />
    </main>
  );
}
