"""The pack as it is built: where each cell lies, what joins the groups, what lies between them and metal."""
