"""What a crew takes away in open formats. Nothing in these files runs, and none asks for anything from anywhere."""
