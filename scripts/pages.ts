import { existsSync } from 'node:fs';
import { cp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { getLicenseFileText } from 'generate-license-file';
import { Marked } from 'marked';
import { handbookBuild, noticesBuild, rootFolder } from './paths';

const handbook = join(rootFolder, 'docs/handbook');
const screenshots = join(rootFolder, 'docs/screenshots');

/** Packages whose notices go with the program: what each of these needs. */
const shipped = ['client', 'engine', 'server', 'cli'].map((name) => join(rootFolder, name, 'package.json'));

/** Where the licence of a package stands that lies in no usual place. */
const replace = { 'combine-errors': join(rootFolder, 'node_modules/combine-errors/Readme.md') };
/** What packages are built with but which does not ship. */
const notShipped = ['node_modules/fb-dotslash'];

/** A part of a page of the handbook: what one heading is about. */
interface Part {
  heading: string;
  html: string;
  /** The words in it, to be searched. */
  text: string;
}

/** What stands inside a line leaves no space where it is taken away. */
const textOf = (html: string): string =>
  html
    .replace(/<\/?(?:strong|em|code|a)\b[^>]*>/g, '')
    .replace(/<[^>]+>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** A page as it is shown in the program: links lead to its pages there, pictures lie beside them. */
function pageOf(id: string, markdown: string): { id: string; title: string; parts: Part[] } {
  const marked = new Marked({
    walkTokens: (token) => {
      if (token.type === 'image') token.href = `/handbook/${basename(token.href)}`;
    },
    renderer: {
      // What does not ship with the program is named only.
      link({ href, text }) {
        const page = /^(?:\.\/)?([\w-]+)\.md/.exec(href)?.[1];
        return page ? `<a href="/handbook/${page}">${text}</a>` : text;
      },
    },
  });
  const [first, ...rest] = markdown.split(/^## /m);
  const title = /^# (.+)$/m.exec(first!)?.[1] ?? id;
  const part = (heading: string, text: string): Part => {
    const html = marked.parse(text, { async: false });
    return { heading, html, text: textOf(html) };
  };
  const opening = part('', first!.replace(/^# .+$/m, ''));
  const others = rest.map((text) => part(/^[^\n]+/.exec(text)![0].trim(), text.replace(/^[^\n]+/, '')));
  return { id, title, parts: [opening, ...others] };
}

/** Puts the handbook, its pictures and the notices of what ships with the program where the client serves them from. */
export async function buildPages(): Promise<void> {
  await rm(handbookBuild, { recursive: true, force: true });
  await mkdir(handbookBuild, { recursive: true });
  const files = (await readdir(handbook)).filter((name) => name.endsWith('.md') && name !== 'README.md').sort();
  const texts = await Promise.all(files.map((name) => readFile(join(handbook, name), 'utf8')));
  const pages = files.map((name, index) => pageOf(name.replace(/\.md$/, ''), texts[index]!));
  await writeFile(join(handbookBuild, 'pages.json'), JSON.stringify(pages));
  const named = texts.flatMap((text) => [...text.matchAll(/\/screenshots\/([\w-]+\.png)/g)].map((match) => match[1]!));
  // One that is new is taken of the program that is built here.
  for (const name of new Set(named))
    if (existsSync(join(screenshots, name))) await cp(join(screenshots, name), join(handbookBuild, name));
  await writeFile(noticesBuild, await notices());
}

/** Name and version of the package in a folder. */
async function packageIn(folder: string): Promise<string> {
  const text = await readFile(join(rootFolder, folder, 'package.json'), 'utf8');
  const { name, version } = JSON.parse(text) as { name: string; version: string };
  return `${name}@${version}`;
}

/** The licences of all packages that ship with the program, and of its own. */
async function notices(): Promise<string> {
  const own = await readFile(join(rootFolder, 'LICENSE'), 'utf8');
  const { workspaces } = JSON.parse(await readFile(join(rootFolder, 'package.json'), 'utf8')) as {
    workspaces: string[];
  };
  const exclude = await Promise.all([...workspaces, ...notShipped].map(packageIn));
  const text = await getLicenseFileText(shipped, { exclude, replace });
  // What it says of itself comes before the first package.
  return `Hastig\n\n${own}\n\n${text.slice(text.indexOf('The following npm package'))}`;
}
