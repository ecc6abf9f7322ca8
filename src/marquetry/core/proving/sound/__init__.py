"""Running, from sound: what a recording of a watch says of its rate, its beat and its swing."""
