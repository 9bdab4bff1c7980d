import pageCss from './page.module.css';
/** What is on screen as a file. */
export function ExportLinks({ what, question }: { what: string; question: string }) {
  const link = (format: string) =>
    `/api/v1/exports/${what}?${new URLSearchParams([...new URLSearchParams(question), ['format', format]])}`;
  return (
    <span className={pageCss.exports}>
      Export <a href={link('csv')}>CSV</a> <a href={link('xlsx')}>XLSX</a>
    </span>
  );
}
