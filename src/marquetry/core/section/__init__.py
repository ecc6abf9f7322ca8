"""The watch cut along the plane through its axis and its crown: what lies where, in millimetres."""
