<!DOCTYPE html>
<html lang="en">
    <head>
        <meta charset="utf-8">
        <meta name="viewport" content="width=device-width, initial-scale=1">
        <title>Hafen</title>
        <link rel="icon" href="/mark.svg" type="image/svg+xml">
        <script src="/look.js"></script>
        @vite(['resources/css/hafen.css', 'resources/js/main.ts'])
    </head>
    <body>
        <div id="hafen"></div>
    </body>
</html>
