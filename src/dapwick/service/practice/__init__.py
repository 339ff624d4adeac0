"""Practice in the salon: who practises, what is asked and told, how it goes. No dog's record is touched."""
