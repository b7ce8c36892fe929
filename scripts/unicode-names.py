#!/usr/bin/env python3
"""Makes src/Files/Names/unicode.txt, by which names that a disk takes for one are told, from Debian's package unicode-data.

    apt-get install unicode-data && scripts/unicode-names.py

The hand has these tables in itself: what a computer has of Unicode differs, or is not there at all.
"""
import pathlib
import re

DATA = pathlib.Path('/usr/share/unicode')
TO = pathlib.Path(__file__).resolve().parent.parent / 'src/Files/Names/unicode.txt'


def lines(name):
    for line in (DATA / name).read_text(encoding='utf-8').splitlines():
        fields = [f.strip() for f in line.split('#')[0].split(';')]
        if len(fields) > 1:
            yield fields


classes, decomposed, pairs, linked = {}, {}, {}, {}


def top(one):
    while linked.get(one, one) != one:
        one = linked[one]
    return one


for f in lines('UnicodeData.txt'):
    code = int(f[0], 16)
    if f[3] != '0':
        classes[code] = int(f[3])
    if f[5] and not f[5].startswith('<'):
        pairs[code] = [int(c, 16) for c in f[5].split()]


def whole(code):
    return [p for part in pairs[code] for p in whole(part)] if code in pairs else [code]


for code in pairs:
    decomposed[code] = whole(code)

# Any two that some disk may take for one are one here: by upper, lower or title case, by simple or full folding.
links, full = [], {}
for f in lines('UnicodeData.txt'):
    links += [(int(f[0], 16), int(other, 16)) for other in f[12:15] if other]
for f in lines('CaseFolding.txt'):
    if f[1] in 'CS':
        links.append((int(f[0], 16), int(f[2], 16)))
    elif f[1] == 'F':
        full[int(f[0], 16)] = [int(c, 16) for c in f[2].split()]
for one, other in links:
    # What decomposes never comes this far.
    if one not in pairs and other not in pairs:
        a, b = sorted((top(one), top(other)))
        linked[b] = a
members = {}
for one in {c for pair in links for c in pair if c not in pairs}:
    members.setdefault(top(one), []).append(one)
simple = {int(f[0], 16): int(f[2], 16) for f in lines('CaseFolding.txt') if f[1] in 'CS'}
folded = {}
for first, all_of_it in members.items():
    several = next((full[c] for c in all_of_it if c in full), None)
    for one in all_of_it:
        folded[one] = several or [simple.get(first, first)]
for one, several in full.items():
    if one not in pairs:
        folded.setdefault(one, several)
folded = {one: [f for t in to for f in folded.get(t, [t])] for one, to in folded.items()}

followers = {p for parts in pairs.values() for p in parts[1:] if p not in classes}
ignored = []
for f in lines('DerivedCoreProperties.txt'):
    if f[1] == 'Default_Ignorable_Code_Point':
        ends = [int(c, 16) for c in f[0].split('..')]
        ignored.append((ends[0], ends[-1]))

version = re.search(r'-([0-9.]+)\.txt', (DATA / 'CaseFolding.txt').read_text(encoding='utf-8').splitlines()[0]).group(1)
out = [
    f'# What names need of Unicode {version} (https://www.unicode.org/license.txt), made by scripts/unicode-names.py.',
    '# d: a character, and what it is made of. f: a character, and what it is where case does not count.',
    '# c: characters from, to, and their combining class. u: one that joins with the one before it. i: some that may not count, from, to.',
]
out += [f'd {code:X} ' + ' '.join(f'{p:X}' for p in parts) for code, parts in sorted(decomposed.items())]
out += [f'f {code:X} ' + ' '.join(f'{p:X}' for p in parts) for code, parts in sorted(folded.items()) if parts != [code]]
begun = None
for code in sorted(classes) + [None]:
    if begun and (code != begun[1] + 1 or classes[code] != classes[begun[0]]):
        out.append(f'c {begun[0]:X} {begun[1]:X} {classes[begun[0]]:X}')
        begun = None
    if code is not None:
        begun = (begun[0] if begun else code, code)
out += [f'u {code:X}' for code in sorted(followers)]
out += [f'i {a:X} {b:X}' for a, b in sorted(ignored)]
TO.parent.mkdir(exist_ok=True)
TO.write_text('\n'.join(out) + '\n', encoding='ascii')
