"""Made parts drawn: on the page beside their fields, and on paper to true size."""
