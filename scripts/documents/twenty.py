#!/usr/bin/python3
"""Writes the same twenty questions as DOCX, ODT, HTML and Markdown (pandoc), PDF (LibreOffice), CSV (Python), XLSX (openpyxl) and GIFT.

    /usr/bin/python3 scripts/documents/twenty.py OUT

Needs Debian's pandoc, libreoffice-writer-nogui and python3-openpyxl. The results that tests use lie in packages/documents/corpus/twenty.
"""
import csv
import json
import pathlib
import subprocess
import sys

import openpyxl

HERE = pathlib.Path(__file__).parent
QUESTIONS = json.loads((HERE.parent.parent / 'packages/documents/corpus/twenty.json').read_text('utf-8'))
LETTERS = 'ABCDEFGH'


def markdown():
    out = ['# Kitchen safety and bread', '']
    for n, q in enumerate(QUESTIONS):
        out.append(f"{n + 1}.  {q['stem']}")
        out.append('')
        for i, o in enumerate(q.get('options', [])):
            out.append(f"    {LETTERS[i].lower()})  {'**' + o + '**' if i in q['key'] else o}")
        if 'answer' in q:
            out.append(f"    Answer: {q['answer']}")
        out.append('')
    return '\n'.join(out)


def key(q):
    return ', '.join(LETTERS[i] for i in q['key']) if 'options' in q else q['answer']


def rows():
    yield ['No.', 'Question', 'Option A', 'Option B', 'Option C', 'Option D', 'Correct answer']
    for n, q in enumerate(QUESTIONS):
        yield [str(n + 1), q['stem'], *(q.get('options', []) + [''] * 4)[:4], key(q)]


def gift():
    def esc(s):
        return ''.join('\\' + c if c in '~=#{}:' else c for c in s)
    out = []
    for n, q in enumerate(QUESTIONS):
        if 'options' in q:
            several = len(q['key']) > 1
            def sign(i):
                if not several:
                    return '=' if i in q['key'] else '~'
                return f'~%{100 / len(q["key"]):.5g}%' if i in q['key'] else '~%-100%'
            body = '\n'.join(sign(i) + esc(o) for i, o in enumerate(q['options']))
        elif q['kind'] == 'true-false':
            body = 'TRUE' if q['answer'] == 'True' else 'FALSE'
        elif q['kind'] == 'numeric':
            body = '#' + q['answer']
        else:
            body = '\n'.join('=' + esc(a.strip()) for a in q['answer'].split('/'))
        out.append(f"::{n + 1}::{esc(q['stem'])} {{\n{body}\n}}\n")
    return '\n'.join(out)


def main():
    out = pathlib.Path(sys.argv[1])
    out.mkdir(parents=True, exist_ok=True)
    md = out / 'twenty.md'
    md.write_text(markdown(), 'utf-8')
    for to in ['docx', 'odt', 'html']:
        subprocess.run(['pandoc', '-f', 'markdown', '-t', to, '--standalone', '--metadata', 'title=', '-o', str(out / f'twenty.{to}'), str(md)], check=True, stderr=subprocess.DEVNULL)
    subprocess.run(['soffice', '--headless', '--convert-to', 'pdf', '--outdir', str(out), str(out / 'twenty.docx')], check=True, stdout=subprocess.DEVNULL)
    with open(out / 'twenty.csv', 'w', newline='', encoding='utf-8') as f:
        csv.writer(f).writerows(rows())
    book = openpyxl.Workbook()
    for r in rows():
        book.active.append(r)
    book.save(out / 'twenty.xlsx')
    (out / 'twenty.gift.txt').write_text(gift(), 'utf-8')


main()
