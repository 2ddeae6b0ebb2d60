"""The documentation as pages: `make docs` reads these Markdown files, the names for Python, and runs the examples in them."""

project = "Mirkle"
extensions = ["myst_parser", "sphinx.ext.autodoc", "sphinx.ext.napoleon", "sphinx.ext.doctest"]
# Headings can be linked to, as on the pages where these files are usually read.
myst_heading_anchors = 3
autodoc_member_order = "bysource"
autodoc_typehints = "signature"
html_theme = "alabaster"
html_theme_options = {"description": "Pace notes against what the car met", "page_width": "1100px", "sidebar_width": "240px"}
