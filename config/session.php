<?php

declare(strict_types=1);

return ['driver' => 'array', 'lifetime' => 120, 'expire_on_close' => false, 'encrypt' => false, 'lottery' => [0, 100], 'cookie' => 'hafen', 'path' => '/'];
