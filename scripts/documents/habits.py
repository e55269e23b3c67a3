#!/usr/bin/python3
"""Writes the same questions as Word documents in many habits (python-docx), and has LibreOffice make ODT, PDF and HTML of them.

    /usr/bin/python3 scripts/documents/habits.py OUT [habit ...]

Needs Debian's python3-docx and libreoffice-writer-nogui. The results that tests use lie in packages/documents/corpus.
"""
import copy
import json
import pathlib
import re
import subprocess
import sys
import zipfile

import docx
from docx.enum.text import WD_COLOR_INDEX, WD_UNDERLINE
from docx.oxml import OxmlElement, parse_xml
from docx.oxml.ns import nsdecls, qn
from docx.shared import Pt, RGBColor

QUESTIONS = json.loads((pathlib.Path(__file__).parent.parent.parent / 'packages/documents/corpus/questions.json').read_text('utf-8'))
LETTERS = 'ABCDEFGH'


def val(tag, **attributes):
    e = OxmlElement(tag)
    for k, v in attributes.items():
        e.set(qn('w:' + k), str(v))
    return e


def numbering(document, levels, restart_of=None):
    """A list of levels (format, text); gives its numId."""
    part = document.part.numbering_part.element
    ids = [int(n.get(qn('w:abstractNumId'))) for n in part.findall(qn('w:abstractNum'))]
    abstract = val('w:abstractNum', abstractNumId=max(ids + [0]) + 1)
    for i, (fmt, text) in enumerate(levels):
        lvl = val('w:lvl', ilvl=i)
        lvl.append(val('w:start', val=1))
        lvl.append(val('w:numFmt', val=fmt))
        lvl.append(val('w:lvlText', val=text))
        ppr = OxmlElement('w:pPr')
        ppr.append(val('w:ind', left=360 * (i + 1), hanging=360))
        lvl.append(ppr)
        abstract.append(lvl)
    first = part.find(qn('w:num'))
    if first is not None:
        first.addprevious(abstract)
    else:
        part.append(abstract)
    return new_num(document, abstract.get(qn('w:abstractNumId')))


def new_num(document, abstract_id, start=None):
    part = document.part.numbering_part.element
    ids = [int(n.get(qn('w:numId'))) for n in part.findall(qn('w:num'))]
    num = val('w:num', numId=max(ids + [0]) + 1)
    num.append(val('w:abstractNumId', val=abstract_id))
    if start is not None:
        override = val('w:lvlOverride', ilvl=0)
        override.append(val('w:startOverride', val=start))
        num.append(override)
    part.append(num)
    return num.get(qn('w:numId'))


def listed(paragraph, num, level=0):
    ppr = paragraph._p.get_or_add_pPr()
    npr = OxmlElement('w:numPr')
    npr.append(val('w:ilvl', val=level))
    npr.append(val('w:numId', val=num))
    ppr.append(npr)
    return paragraph


def new(title='Bread and dough'):
    d = docx.Document()
    d.styles['Normal'].font.size = Pt(11)
    if title:
        d.add_heading(title, 1)
    return d


def plain(d, mark, number='{}. ', letter='{}) ', stem=None):
    """Numbers and letters typed by hand; `mark` makes the key's run look like one."""
    for n, q in enumerate(QUESTIONS):
        p = d.add_paragraph()
        r = p.add_run(number.format(n + 1) + q['stem'])
        if stem:
            stem(r)
        for i, o in enumerate(q['options']):
            p = d.add_paragraph()
            p.add_run(letter.format(LETTERS[i]))
            r = p.add_run(o)
            if i == q['key']:
                mark(r, p)
    return d


def bold_auto():
    d = new()
    num = numbering(d, [('decimal', '%1.'), ('lowerLetter', '%2)')])
    for q in QUESTIONS:
        listed(d.add_paragraph(q['stem']), num, 0)
        for i, o in enumerate(q['options']):
            r = listed(d.add_paragraph(), num, 1).add_run(o)
            r.bold = i == q['key']
    return d


def highlight():
    return plain(new(), lambda r, p: setattr(r.font, 'highlight_color', WD_COLOR_INDEX.YELLOW))


def red_bold_stems():
    def bold(r):
        r.bold = True
    return plain(new(), lambda r, p: setattr(r.font.color, 'rgb', RGBColor(0xC0, 0, 0)), stem=bold)


def underlined():
    return plain(new(), lambda r, p: setattr(r.font, 'underline', WD_UNDERLINE.SINGLE), letter='{}. ')


def wingdings_tick():
    def tick(r, p):
        run = p.add_run(' ')
        sym = val('w:sym', font='Wingdings', char='F0FC')
        run._r.append(sym)
    return plain(new(), tick)


def key_table():
    d = plain(new(), lambda r, p: None)
    d.add_heading('Answers', 2)
    t = d.add_table(rows=1, cols=2)
    t.rows[0].cells[0].text, t.rows[0].cells[1].text = 'Question', 'Answer'
    for n, q in enumerate(QUESTIONS):
        c = t.add_row().cells
        c[0].text, c[1].text = str(n + 1), LETTERS[q['key']]
    return d


def table_each():
    d = new()
    for n, q in enumerate(QUESTIONS):
        t = d.add_table(rows=1 + len(q['options']), cols=2)
        t.style = 'Table Grid'
        t.rows[0].cells[0].text, t.rows[0].cells[1].text = f'{n + 1}.', q['stem']
        for i, o in enumerate(q['options']):
            t.rows[i + 1].cells[0].text = LETTERS[i]
            r = t.rows[i + 1].cells[1].paragraphs[0].add_run(o)
            r.bold = i == q['key']
        d.add_paragraph()
    return d


def tabbed_options():
    d = new()
    for n, q in enumerate(QUESTIONS):
        d.add_paragraph(f"{n + 1}. {q['stem']}")
        p = d.add_paragraph()
        for i, o in enumerate(q['options']):
            p.add_run(f"{'' if i == 0 else chr(9)}{LETTERS[i]}. ")
            p.add_run(o).bold = i == q['key']
    return d


def soft_breaks():
    d = new()
    for n, q in enumerate(QUESTIONS):
        p = d.add_paragraph()
        p.add_run(f"{n + 1}) {q['stem']}")
        for i, o in enumerate(q['options']):
            p.add_run().add_break()
            p.add_run(f'{LETTERS[i].lower()}) {o}')
        p.add_run().add_break()
        p.add_run(f"Answer: {LETTERS[q['key']].lower()}").italic = True
    return d


def tracked():
    d = plain(new(), lambda r, p: setattr(r, 'bold', True))
    n = 0
    for p in d.paragraphs[1:]:
        r = p.runs[-1]._r
        n += 1
        if n % 3 == 0:
            gone = parse_xml(f'<w:del {nsdecls("w")} w:id="{n}" w:author="A" w:date="2026-01-01T00:00:00Z"><w:r><w:delText xml:space="preserve"> obsolete words</w:delText></w:r></w:del>')
            r.addnext(gone)
        elif n % 3 == 1:
            ins = parse_xml(f'<w:ins {nsdecls("w")} w:id="{n}" w:author="A" w:date="2026-01-01T00:00:00Z"/>')
            r.addprevious(ins)
            ins.append(r)
    return d


def checkboxes():
    d = new()
    for n, q in enumerate(QUESTIONS):
        d.add_paragraph(f"{n + 1}. {q['stem']}")
        for i, o in enumerate(q['options']):
            p = d.add_paragraph()
            on = 1 if i == q['key'] else 0
            box = parse_xml(
                f'<w:sdt {nsdecls("w")} xmlns:w14="http://schemas.microsoft.com/office/word/2010/wordml"><w:sdtPr><w14:checkbox><w14:checked w14:val="{on}"/></w14:checkbox></w:sdtPr>'
                f'<w:sdtContent><w:r><w:t>{"☒" if on else "☐"}</w:t></w:r></w:sdtContent></w:sdt>')
            p._p.append(box)
            p.add_run(' ' + o)
    return d


def two_columns():
    d = plain(new(None), lambda r, p: setattr(r, 'bold', True))
    cols = d.sections[0]._sectPr.find(qn('w:cols'))
    if cols is None:
        cols = OxmlElement('w:cols')
        d.sections[0]._sectPr.append(cols)
    cols.set(qn('w:num'), '2')
    cols.set(qn('w:space'), '500')
    d.sections[0].header.paragraphs[0].text = 'Saltmarsh Cookery School – bread test'
    d.sections[0].footer.paragraphs[0].text = 'Name: ____________'
    return d


def text_box():
    d = new()
    for n, q in enumerate(QUESTIONS):
        if n == 2:
            lines = [f"{n + 1}. {q['stem']}"] + [f'{LETTERS[i]}) {o}' for i, o in enumerate(q['options'])] + [f"Answer: {LETTERS[q['key']]}"]
            inner = ''.join(f'<w:p><w:r><w:t xml:space="preserve">{t.replace("&", "&amp;")}</w:t></w:r></w:p>' for t in lines)
            p = d.add_paragraph()
            r = p.add_run()
            r._r.append(parse_xml(
                f'<w:pict {nsdecls("w")} xmlns:v="urn:schemas-microsoft-com:vml"><v:shape style="width:400pt;height:120pt"><v:textbox><w:txbxContent>{inner}</w:txbxContent></v:textbox></v:shape></w:pict>'))
            continue
        d.add_paragraph(f"{n + 1}. {q['stem']}")
        for i, o in enumerate(q['options']):
            d.add_paragraph(f'{LETTERS[i]}) {o}')
        d.add_paragraph(f"Answer: {LETTERS[q['key']]}")
    return d


def separate_lists():
    """Questions in one list, options of each question in a list of their own that starts again at a."""
    d = new()
    questions = numbering(d, [('decimal', 'Q%1.')])
    options = numbering(d, [('lowerLetter', '(%1)')])
    part = d.part.numbering_part.element
    abstract = [n for n in part.findall(qn('w:num')) if n.get(qn('w:numId')) == options][0].find(qn('w:abstractNumId')).get(qn('w:val'))
    for q in QUESTIONS:
        listed(d.add_paragraph(q['stem']), questions)
        num = new_num(d, abstract, 1)
        for i, o in enumerate(q['options']):
            listed(d.add_paragraph(), num).add_run(o).bold = i == q['key']
    return d


def bullets():
    d = new()
    for n, q in enumerate(QUESTIONS):
        d.add_paragraph(f"{n + 1}. {q['stem']}")
        for i, o in enumerate(q['options']):
            d.add_paragraph(style='List Bullet').add_run(o).bold = i == q['key']
    return d


def question_headings():
    d = new()
    num = numbering(d, [('upperLetter', '%1.')])
    part = d.part.numbering_part.element
    abstract = [n for n in part.findall(qn('w:num')) if n.get(qn('w:numId')) == num][0].find(qn('w:abstractNumId')).get(qn('w:val'))
    for n, q in enumerate(QUESTIONS):
        d.add_heading(f'Question {n + 1}', 2)
        d.add_paragraph(q['stem'])
        own = new_num(d, abstract, 1)
        for o in q['options']:
            listed(d.add_paragraph(o), own)
        d.add_paragraph(f"Correct answer: {LETTERS[q['key']]}")
    return d


def styled_keys():
    d = new()
    s = d.styles.add_style('Right One', docx.enum.style.WD_STYLE_TYPE.CHARACTER)
    s.font.color.rgb = RGBColor(0, 0x80, 0)
    return plain(d, lambda r, p: setattr(r, 'style', s))


def shaded():
    def shade(r, p):
        r._r.get_or_add_rPr().append(val('w:shd', val='clear', color='auto', fill='FFFF99'))
    return plain(new(), shade)


def hidden_notes():
    d = plain(new(), lambda r, p: setattr(r, 'bold', True))
    p = d.add_paragraph()
    r = p.add_run('Remember to check question 3 before printing.')
    r.font.hidden = True
    return d


def letters_in_cells():
    """Options side by side in a table without borders, under a question typed by hand."""
    d = new()
    for n, q in enumerate(QUESTIONS):
        d.add_paragraph(f"{n + 1}. {q['stem']}")
        t = d.add_table(rows=(len(q['options']) + 1) // 2, cols=2)
        for i, o in enumerate(q['options']):
            c = t.rows[i // 2].cells[i % 2].paragraphs[0]
            c.add_run(f'{LETTERS[i]}) ')
            c.add_run(o).bold = i == q['key']
    return d


def question_table():
    d = new()
    t = d.add_table(rows=1, cols=7)
    for c, h in zip(t.rows[0].cells, ['No.', 'Question', 'A', 'B', 'C', 'D', 'Correct']):
        c.text = h
    for n, q in enumerate(QUESTIONS):
        cells = t.add_row().cells
        for c, words in zip(cells, [str(n + 1), q['stem'], *(q['options'] + [''] * 4)[:4], LETTERS[q['key']]]):
            c.text = words
    return d


def star_in_front():
    d = new()
    for n, q in enumerate(QUESTIONS):
        d.add_paragraph(f"{n + 1}. {q['stem']}")
        for i, o in enumerate(q['options']):
            d.add_paragraph(f"{'*' if i == q['key'] else ''}{LETTERS[i].lower()}. {o}")
    return d


def key_line_end():
    d = plain(new(), lambda r, p: None, number='{}) ', letter='{} - ')
    d.add_paragraph('Key: ' + ', '.join(f"{n + 1}{LETTERS[q['key']]}" for n, q in enumerate(QUESTIONS)))
    return d


HABITS = {f.__name__.replace('_', '-'): f for f in [
    bold_auto, highlight, red_bold_stems, underlined, wingdings_tick, key_table, table_each, tabbed_options, soft_breaks, tracked, checkboxes,
    two_columns, text_box, separate_lists, bullets, question_headings, styled_keys, shaded, hidden_notes, letters_in_cells, question_table,
    star_in_front, key_line_end]}


def slimmed(path):
    """Without what the template brings along and nobody reads: thumbnail, theme, custom XML."""
    with zipfile.ZipFile(path) as z:
        parts = {n: z.read(n) for n in z.namelist()}
    gone = re.compile(r'thumbnail|theme|customXml|stylesWithEffects')
    with zipfile.ZipFile(path, 'w', zipfile.ZIP_DEFLATED) as z:
        for name, data in parts.items():
            if gone.search(name):
                continue
            if name.endswith('.rels') or name == '[Content_Types].xml':
                data = re.sub(rb'<(?:Relationship|Override|Default)\b[^>]*(?:thumbnail|theme|customXml|stylesWithEffects|jpeg)[^>]*/>', b'', data)
            z.writestr(name, data)


def main():
    out = pathlib.Path(sys.argv[1])
    out.mkdir(parents=True, exist_ok=True)
    wanted = sys.argv[2:] or list(HABITS)
    files = []
    for name in wanted:
        f = out / f'{name}.docx'
        HABITS[name]().save(f)
        slimmed(f)
        files.append(str(f))
    for to in ['odt', 'pdf', 'html:HTML:EmbedImages']:
        subprocess.run(['soffice', '--headless', '--convert-to', to, '--outdir', str(out), *files], check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)


main()
