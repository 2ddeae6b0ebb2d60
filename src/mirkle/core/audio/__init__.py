"""When each note was called, told from where there is a voice in the sound and how long each note takes to say."""
