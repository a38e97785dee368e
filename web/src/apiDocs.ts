/** The API's own page, drawn from its OpenAPI document; everything it needs ships with it. */

import 'swagger-ui-dist/swagger-ui.css';
import SwaggerUI from 'swagger-ui-dist/swagger-ui-es-bundle.js';

SwaggerUI({
	dom_id: '#docs',
	url: '/api/openapi.json',
	deepLinking: true,
	docExpansion: 'none',
	defaultModelsExpandDepth: 0,
	// No address but this computer's is ever asked.
	validatorUrl: null
});
