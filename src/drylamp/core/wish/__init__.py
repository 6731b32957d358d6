"""From a wish in a sentence, and from what lies on the pile, to builds that bring it off."""
