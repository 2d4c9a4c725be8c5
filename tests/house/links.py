"""No dead link in README, CONTRIBUTING and docs: every file that is linked is there, and every heading; nobody is left out."""
import pathlib
import re
import sys

source = pathlib.Path(sys.argv[1]).resolve()
installed = "--installed" in sys.argv  # what is in a checkout alone is not there, and not linked
pages = [page for page in [*source.glob("*.md"), *source.glob("docs/**/*.md")]]


def anchors(page):
    """Headings as forges name them: lower case, punctuation gone, blanks to hyphens."""
    found = set()
    for heading in re.findall(r"^#+ (.*)$", page.read_text(), re.M):
        name = re.sub(r"[^\w\- ]", "", re.sub(r"\[([^\]]*)\]\([^)]*\)", r"\1", heading).lower()).replace(" ", "-")
        found.add(name)
    return found


dead, linked, count = [], set(), 0
for page in pages:
    text = re.sub(r"^(```+).*?^\1", "", page.read_text(), flags=re.M | re.S)
    for target in re.findall(r"\]\(([^)\s]+)\)", text):
        count += 1
        where, _, heading = target.partition("#")
        if re.match(r"[a-z]+:", where):
            dead.append(f"{page.relative_to(source)}: {target} leads out of the repository, which no test can follow")
            continue
        file = (page.parent / where).resolve() if where else page
        linked.add(file)
        if not file.exists():
            dead.append(f"{page.relative_to(source)}: {target} is not there")
        elif heading and heading not in anchors(file):
            dead.append(f"{page.relative_to(source)}: {target}: no such heading")
for page in pages:
    if not installed and page.parent != source and page not in linked:
        dead.append(f"{page.relative_to(source)}: nothing links to it")
assert count > 100, f"found only {count} links"
if dead:
    sys.exit("\n".join(dead))
print(f"{count} links in {len(pages)} pages, none dead")
