"""Writes pages as lines of JSON, as `stilk scan --stream` reads them: pages.py COUNT FOLDER-OF-THE-SAMPLE > pages.jsonl

Each page has controls of the sample, some with a mistake; which ones is drawn by the page's number, so that two runs write the same.
"""

import json
import random
import sys

CONTROLS = [
    '<button type="button" class="tern-button"><span class="tern-button_label">Book passage {n}</span></button>',
    '<a href="#{n}" class="tern-button tern-button-outline tern-button-small"><span class="tern-button_label">Later</span></a>',
    '<button type="button" class="tern-button tern-button-kelp"><span class="tern-button_label">Stow {n}</span></button>',
    '<label class="tern-checkbox"><span class="tern-checkbox_box"><input type="checkbox" class="tern-checkbox_native">'
    '<span class="tern-checkbox_tick"></span><span class="tern-checkbox_dash"></span></span>'
    '<span class="tern-checkbox_caption">Bicycle {n}</span></label>',
    '<p>Crossing {n} leaves at noon, weather permitting, and is back before the tide turns.</p>',
]
MISTAKES = [
    '<button type="button" class="tern-button tern-button-outlined"><span class="tern-button_label">Go</span></button>',
    '<button class="tern-button"><span class="tern-button_label">No type</span></button>',
    '<div class="dark"><button type="button" class="tern-button tern-button-bare"><span class="tern-button_label">On dark</span></button></div>',
]
SHEET = {"url": "site/site.css", "text": "body { font: 1rem/1.5 serif }\n.dark { background: #0b1d26 }\n.tern-button { line-height: 1.1 }\n"}


def page(number):
    draw = random.Random(number)
    body = [draw.choice(CONTROLS).format(n=number * 10 + i) for i in range(draw.randint(5, 40))]
    if number % 7 == 0:
        body.insert(draw.randrange(len(body)), draw.choice(MISTAKES))
    html = (
        f'<!doctype html>\n<html lang="en">\n<title>Crossing {number}</title>\n'
        '<link rel="stylesheet" href="site.css">\n<link rel="stylesheet" href="ternhaven.css">\n<main>\n'
        + "\n".join(body)
        + "\n</main>\n</html>\n"
    )
    return {"url": f"site/{number:06}.html", "html": html, "css": [SHEET]}


for number in range(int(sys.argv[1])):
    sys.stdout.write(json.dumps(page(number)) + "\n")
