"""What a board came to, and the page that is handed on."""
