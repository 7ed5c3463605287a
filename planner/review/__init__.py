"""What a board came to: money, hours, kilometres, promises; and what is handed on of it."""
