<?php

declare(strict_types=1);

namespace Quayside\Store;

final class ClosedDays
{
    /** @return string[] */
    public function all(): array
    {
        return file('closed.txt') ?: [];
    }
}
