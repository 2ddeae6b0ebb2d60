"""What a later pass says of the changes that were made after an earlier one."""
