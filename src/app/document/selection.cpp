#include "app/document/selection.h"
